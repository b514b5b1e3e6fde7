/** Let the browser save some data as a file. */
export function saveAs(data: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(data);
  link.download = name;
  link.click();
  // Long after the download has begun.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
