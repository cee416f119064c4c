/** What a form hears back: the result, or complaints about its fields (`pages.0`), for showing beside them. */
export type FormResult<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly errors: { readonly field: string; readonly message: string }[] };
