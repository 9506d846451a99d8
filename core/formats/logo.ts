import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** Most bytes of a logo. */
export const MOST_LOGO = 200_000;

const SIGNATURES: readonly (readonly number[])[] = [
  // PNG (ISO/IEC 15948) and JPEG (ISO/IEC 10918-1).
  [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a],
  [0xff, 0xd8, 0xff],
];

/** A logo for our paper: a PNG or JPEG as base64 (RFC 4648), none to take it off. Its bytes, null for none. */
export function decideLogo(base64: string): Decision<{ image: Uint8Array | null }> {
  if (base64 === '') return decided([], () => ({ image: null }));
  const refusals: Refusal[] = [];
  const bytes = /^[A-Za-z0-9+/]+={0,2}$/.test(base64) ? Buffer.from(base64, 'base64') : null;
  const known = bytes !== null && SIGNATURES.some((signature) => signature.every((byte, at) => bytes[at] === byte));
  if (!known) refusals.push(refuse('not-an-image', 'image', {}));
  else if (bytes.length > MOST_LOGO)
    refusals.push(refuse('image-too-large', 'image', { most: String(MOST_LOGO / 1000) }));
  return decided(refusals, () => ({ image: bytes }));
}
