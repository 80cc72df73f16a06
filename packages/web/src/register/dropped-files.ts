/** All files of a drop, those in folders too, however deep. Folders are named by none of them: where they go is chosen at the desk. */
export async function filesIn(transfer: DataTransfer): Promise<File[]> {
  // The list of items is emptied as soon as the event is over: entries are taken at once.
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  if (!entries.length) return [...transfer.files];
  const files: File[] = [];
  const waiting: FileSystemEntry[] = entries.reverse();
  for (let entry = waiting.pop(); entry; entry = waiting.pop()) {
    if (entry.isFile) files.push(await fileOf(entry as FileSystemFileEntry));
    else waiting.push(...(await childrenOf(entry as FileSystemDirectoryEntry)).reverse());
  }
  return files;
}

const fileOf = (entry: FileSystemFileEntry): Promise<File> =>
  new Promise((resolve, reject) => entry.file(resolve, reject));

/** A folder gives its entries in parts, until a part is empty. */
async function childrenOf(folder: FileSystemDirectoryEntry): Promise<FileSystemEntry[]> {
  const reader = folder.createReader();
  const children: FileSystemEntry[] = [];
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (!part.length) return children;
    children.push(...part);
  }
}
