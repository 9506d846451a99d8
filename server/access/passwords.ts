import { hash, verify } from '@node-rs/argon2';

/** argon2id with the parameters OWASP names as the least: 19 MiB, 2 passes. (RFC 9106) */
const OPTIONS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export function hashPassword(password: string): Promise<string> {
  return hash(password, OPTIONS);
}

// Checked for an unknown name, so that it takes as long as a wrong password.
let nobody: Promise<string> | undefined;

/** True where the password fits the hash; false, in the same time, where there is no hash. */
export async function passwordFits(storedHash: string | undefined, password: string): Promise<boolean> {
  nobody ??= hashPassword('nobody has this password');
  const fits = await verify(storedHash ?? (await nobody), password);
  return fits && storedHash !== undefined;
}
