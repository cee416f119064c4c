import { InputError } from '../../store/inputError';

/** How pictures begin, by the type that they say they are. */
const BEGINNINGS: Readonly<Record<string, (bytes: Buffer) => boolean>> = {
  png: (bytes) => bytes.subarray(0, 8).equals(Buffer.from([137, 80, 78, 71, 13, 10, 26, 10])),
  jpeg: (bytes) => bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff,
  webp: (bytes) => bytes.toString('latin1', 0, 4) === 'RIFF' && bytes.toString('latin1', 8, 12) === 'WEBP',
};

/** Sees that a logo is the picture that it says it is. Throws InputError. */
export function checkLogo(logo: string | null): void {
  if (logo === null) return;
  const [, type = '', data = ''] = /^data:image\/(\w+);base64,(.*)$/.exec(logo) ?? [];
  if (BEGINNINGS[type]?.(Buffer.from(data, 'base64')) !== true)
    throw new InputError('logo', 'That is no PNG, JPEG or WebP picture, whatever its name says.');
}
