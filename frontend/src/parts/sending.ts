/** A file as the body of a request, as it is. */
export async function sent(file: File, type: string) {
  return {
    body: (await file.arrayBuffer()) as never,
    bodySerializer: (body: unknown) => body as BodyInit,
    headers: { 'Content-Type': type },
  };
}

/** Hand a file to the browser to save. */
export function saved(file: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
