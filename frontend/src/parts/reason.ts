/** What is told of something that went wrong. */
export function reason(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
