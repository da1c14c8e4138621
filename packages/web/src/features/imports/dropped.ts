// Files and folders dropped into the page.

/** Files of a drop, folders opened. */
export async function filesOfDrop(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].flatMap((item) => item.webkitGetAsEntry() ?? []);
  if (entries.length === 0) return [...transfer.files];
  return (await Promise.all(entries.map(filesOfEntry))).flat();
}

async function filesOfEntry(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile) return [await new Promise<File>((done, fail) => (entry as FileSystemFileEntry).file(done, fail))];
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const files: File[] = [];
  for (;;) {
    const batch = await new Promise<FileSystemEntry[]>((done, fail) => reader.readEntries(done, fail));
    if (batch.length === 0) return files;
    files.push(...(await Promise.all(batch.map(filesOfEntry))).flat());
  }
}
