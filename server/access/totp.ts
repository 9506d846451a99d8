import { Secret, TOTP } from 'otpauth';
import { toSVG } from 'bwip-js/node';

/** Codes of six digits, a new one every thirty seconds, as every telephone's program makes them. (RFC 6238) */
const totpOf = (secret: Secret, label = '') =>
  new TOTP({ issuer: 'Kampong', label, algorithm: 'SHA1', digits: 6, period: 30, secret });

const SECRET_BYTES = 20;

/** A new secret in base32, and its address as a picture for a telephone's camera. */
export function newSecret(label: string): { secret: string; picture: string } {
  const secret = new Secret({ size: SECRET_BYTES });
  const picture = toSVG({ bcid: 'qrcode', text: totpOf(secret, label).toString() });
  return { secret: secret.base32, picture: `data:image/svg+xml;base64,${Buffer.from(picture).toString('base64')}` };
}

/** The bytes of a secret in base32; null where it is none. */
export function secretBytes(base32: string): Buffer | null {
  try {
    const { bytes } = Secret.fromBase32(base32.replaceAll(' ', '').toUpperCase());
    return bytes.length === SECRET_BYTES ? Buffer.from(bytes) : null;
  } catch {
    return null;
  }
}

/** The step a code is of, one before or after now included; null where it is of none, or of one that was used. // U4 */
export function stepOf(secret: Buffer, code: string, now: Date, usedStep: number | null): number | null {
  const token = code.replace(/\s/g, '');
  if (!/^\d{6}$/.test(token)) return null;
  const totp = totpOf(new Secret({ buffer: new Uint8Array(secret).buffer }));
  const delta = totp.validate({ token, timestamp: now.getTime(), window: 1 });
  if (delta === null) return null;
  const step = Math.floor(now.getTime() / 30_000) + delta;
  return usedStep !== null && step <= usedStep ? null : step;
}
