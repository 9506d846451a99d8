import { isAddress } from '@core/mail';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

export interface ElsewhereTyped {
  code: string;
  name: string;
  currency: string;
  email: string;
}

/**
 * A company of another installation: the code it is known by there (2 to 8 capitals and digits), its name, its currency
 * (ISO 4217) and where its files are sent, if by mail. A code is one company's in one installation. // X1
 */
export function decideElsewhere(
  { bearer }: { bearer: { name: string } | null },
  typed: ElsewhereTyped,
): Decision<ElsewhereTyped> {
  const refusals: Refusal[] = [];
  const [code, name, currency, email] = [typed.code, typed.name, typed.currency, typed.email].map((text) =>
    text.trim(),
  );
  if (!/^[A-Z0-9]{2,8}$/.test(code!)) refusals.push(refuse('bad-company-code', 'code', {}));
  else if (bearer) refusals.push(refuse('company-code-taken', 'code', { code: code!, name: bearer.name }));
  if (name === '') refusals.push(refuse('required', 'name', { what: 'The name' }));
  if (!/^[A-Z]{3}$/.test(currency!)) refusals.push(refuse('not-a-currency', 'currency', { code: currency! }));
  if (email !== '' && !isAddress(email!)) refusals.push(refuse('not-an-address', 'email', {}));
  return decided(refusals, () => ({ code: code!, name: name!, currency: currency!, email: email! }));
}
