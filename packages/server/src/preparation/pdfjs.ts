import { createRequire } from 'node:module';
import path from 'node:path';

/** Folder of pdf.js, with the character maps, fonts and decoders that drawings may need. */
export const PDFJS = path.dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
