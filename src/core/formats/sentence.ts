import { SceneFileError } from '../scene/migrate';
import { FileError } from './limits';

/** Errors of readers as what a person can do something with: what, where, what to do. */

/**
 * Runs a reader. Its own errors go on as they are; those of engines and libraries become a sentence about the file.
 * @throws FileError, or what the reader itself says in a sentence
 */
export async function inSentences<T>(name: string, read: () => T | Promise<T>): Promise<T> {
  try {
    return await read();
  } catch (error) {
    throw isOurs(error) ? error : new FileError(sentenceOf(error, name));
  }
}

const isOurs = (error: unknown): boolean => error instanceof FileError || error instanceof SceneFileError;

function sentenceOf(error: unknown, name: string): string {
  const text = error instanceof Error ? error.message : String(error);
  if (/call stack|recursion|nested/i.test(text))
    return `“${name}” holds things inside things inside things, too deep to be read. Take groups apart and save it again.`;
  if (/array length|allocation|out of memory|Invalid string length/i.test(text))
    return `“${name}” needs more memory than this browser gives. Make it smaller, or split it.`;
  return `“${name}” is damaged, or not what its name says, and cannot be read. Save it again from where it was made.`;
}
