/** Something a person can mend: one sentence, and a way out. Printed without a stack. */
export class Trouble extends Error {}

/** What low-level errors mean in words; anything else stays as it is. */
export function inWords(error) {
  if (error instanceof Trouble) return error.message;
  if (error?.code === 'ENOSPC') return 'The disk is full. Free some space (about 300 MB) and start again; nothing that was kept is lost.';
  if (error?.code === 'EACCES') return `No permission for ${error.path ?? 'a file'}. Start as the user who owns the project's folder.`;
  return error?.stack ?? String(error);
}
