/** Sentences for what was noticed in BCF files. */
import type { BcfNote } from '@kindred/core/bcf/bcf-file';

const WHY: Record<string, string> = {
  'bcf-xml': 'its XML cannot be read',
  'bcf-entities': 'it declares entities of its own',
  'zip-damaged': 'its content is not what was packed',
  'zip-too-large': 'it unpacks to more than anybody needs',
};

export function bcfNote({ code, topic, values }: BcfNote): string {
  const of = topic ? `Topic ${topic}: ` : '';
  const { name = '', why = '', field = '', value = '', what = '' } = values;
  const reason = WHY[String(why)] ?? String(why);
  switch (code) {
    case 'unknown-version':
      return `The file says it is of version “${String(values.version)}”; it was read as the nearest that is known.`;
    case 'unreadable-part':
    case 'unreadable-topic':
      return `${of}“${name}” was left out: ${reason}.`;
    case 'no-title':
      return `${of}it has no title.`;
    case 'same-guid':
      return `${of}it is there twice; “${name}” was left out.`;
    case 'new-guid':
      return `${of}“${value}” is no GUID; this ${what} was given one.`;
    case 'no-viewpoint-file':
      return `${of}the viewpoint “${name}” is not in the file.`;
    case 'unreadable-viewpoint':
      return `${of}the viewpoint “${name}” was left out: ${reason}.`;
    case 'no-snapshot':
      return `${of}the picture “${name}” is not in the file.`;
    case 'no-document':
      return `${of}the document “${name}” is not in the file.`;
    case 'unsafe-name':
      return `“${name}” leads out of the archive and was left out.`;
    case 'two-cameras':
      return `${of}a viewpoint has two cameras; the perspective one counts.`;
    case 'not-a-number':
      return `${of}numbers of ${String(values.where)} cannot be read; it was left out.`;
    case 'filled':
      return `${of}${field} is required and was not said; a placeholder stands there.`;
    case 'not-in-version':
      return `${of}${field} (${value}) cannot be said in the version that was written.`;
  }
}
