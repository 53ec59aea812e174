/** Has the browser download data under a name. */
export function saveAs(fileName: string, data: Blob): void {
  const url = URL.createObjectURL(data);
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  // The download has begun by the next task.
  setTimeout(() => URL.revokeObjectURL(url));
}
