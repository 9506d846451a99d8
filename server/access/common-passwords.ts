import { dictionary } from '@zxcvbn-ts/language-common';

let known: Set<string> | undefined;

/** Whether a password, in small letters, is among those that are tried first. // U4 */
export function isCommonPassword(password: string): boolean {
  known ??= new Set(dictionary.passwords as string[]);
  // What is added to a common one at its end is tried as well.
  return known.has(password) || known.has(password.replace(/[\d!.?_-]+$/, ''));
}
