/** What somebody else has made of a thing since an edit of it began: the fields in question, and the whole form as it is now. */
export type Meanwhile = { readonly fields: readonly string[]; readonly now: object };

/** What a form hears back: the result, or complaints about its fields (`pages.0`), for showing beside them. */
export type FormResult<T> =
  | { readonly ok: true; readonly value: T }
  | {
      readonly ok: false;
      readonly errors: readonly { readonly field: string; readonly message: string }[];
      readonly meanwhile?: Meanwhile;
    };
