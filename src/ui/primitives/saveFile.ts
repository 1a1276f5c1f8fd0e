/** Hands a file that was made on the page to the one who asked for it. */

export function saveFile(blob: Blob, name: string): void {
  const address = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  // The download has its own hold on the bytes by then.
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}
