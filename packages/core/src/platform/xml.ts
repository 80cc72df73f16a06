/** How XML of other programs is read: texts and numbers stay as they are written, attributes begin with `@`. */
export const RAW_XML = {
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  removeNSPrefix: true,
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: false,
  htmlEntities: true,
} as const;

/** Entities of its own can make a small file endless: nobody needs them here. */
export const declaresEntities = (text: string): boolean => /<!(?:DOCTYPE|ENTITY)/i.test(text);
