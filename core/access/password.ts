import { refuse, type Refusal } from '@core/refusals';

/** A password has at least so many letters: what is long needs no signs nobody can remember. // U4 */
export const LEAST_PASSWORD = 10;
const MOST_PASSWORD = 200;

/**
 * What stands against a password: too short, among those everybody tries first, or made of what anybody knows of the
 * person (`known`). // U4
 */
export function passwordRefusals(
  password: string,
  field: string,
  known: readonly string[],
  common: (password: string) => boolean,
): Refusal[] {
  if (password === '') return [refuse('required', field, { what: 'The password' })];
  if ([...password].length < LEAST_PASSWORD)
    return [refuse('password-short', field, { least: String(LEAST_PASSWORD) })];
  if (password.length > MOST_PASSWORD) return [refuse('too-long', field, { what: 'The password', most: '200' })];
  const plain = password.toLowerCase();
  const own = known.map((each) => each.trim().toLowerCase()).some((each) => each.length > 2 && plain.includes(each));
  const oneLetter = new Set(plain).size < 4;
  return own || oneLetter || common(plain) ? [refuse('password-common', field, {})] : [];
}
