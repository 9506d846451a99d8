let known: Promise<ReadonlySet<string>> | undefined;

/**
 * Whether a password, in small letters, is among those that are tried first. Some fifty thousand are read when the
 * first one is chosen, and not when a server starts. // U4
 */
export async function commonPasswords(): Promise<(password: string) => boolean> {
  known ??= import('@zxcvbn-ts/language-common').then(({ dictionary }) => new Set(dictionary.passwords as string[]));
  const common = await known;
  // What is added to a common one at its end is tried as well.
  return (password) => common.has(password) || common.has(password.replace(/[\d!.?_-]+$/, ''));
}
