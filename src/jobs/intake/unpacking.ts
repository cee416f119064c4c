/** A file of an archive, unpacked. */
export type Unpacked = { readonly name: string; readonly file: string; readonly bytes: number };

/** A file of an archive that cannot be taken, and why. */
export type LeftOut = { readonly name: string; readonly reason: string };

/** The tables of an archive, and what was left out. */
export type Unpacking = { readonly files: readonly Unpacked[]; readonly leftOut: readonly LeftOut[] };
