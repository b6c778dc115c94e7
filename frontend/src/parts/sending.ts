/** A file as the body of a request, as it is. */
export async function sent(file: File, type: string) {
  return {
    body: (await file.arrayBuffer()) as never,
    bodySerializer: (body: unknown) => body as BodyInit,
    headers: { 'Content-Type': type },
  };
}
