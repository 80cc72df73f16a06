/** How pdf.js opens a drawing everywhere: nothing in it is run, and fonts and maps come from `folder` of pdf.js alone. */
export const pdfOptions = (folder: string) => ({
  isEvalSupported: false,
  useSystemFonts: false,
  standardFontDataUrl: `${folder}/standard_fonts/`,
  cMapUrl: `${folder}/cmaps/`,
  cMapPacked: true,
  wasmUrl: `${folder}/wasm/`,
  verbosity: 0,
});
