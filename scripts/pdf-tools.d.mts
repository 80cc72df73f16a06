export function requirePdfTools(): void;
