/** Hands a text that was made here to the browser as a file to keep. */
export function saveFile(name: string, text: string | Blob, type: string): void {
  const link = window.document.createElement("a");
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
