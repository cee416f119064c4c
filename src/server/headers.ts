/**
 * The Content-Security-Policy of a page: everything comes from the server itself, scripts only with this
 * request's nonce. Style attributes are allowed, since the server draws some positions with them.
 */
export function contentSecurityPolicy(nonce: string, development = false): string {
  return [
    "default-src 'self'",
    // The development server evaluates its modules; the built application does not.
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${development ? " 'unsafe-eval'" : ''}`,
    `style-src 'self' ${development ? "'unsafe-inline'" : `'nonce-${nonce}'`}`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data:",
    "font-src 'self'",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}

/**
 * What goes with a read-only link: a document that runs nothing and fetches nothing; its one form asks for a password.
 */
export const DOCUMENT_HEADERS = {
  'Content-Security-Policy':
    "default-src 'none'; style-src 'unsafe-inline'; img-src data:; form-action 'self'; base-uri 'none'; frame-ancestors 'none'",
  // Without any, browsers leave out of a plain form which page it comes from.
  'Referrer-Policy': 'same-origin',
};

/** What browsers are told where the public address is one with TLS: to ask in no other way, for a year. */
export const STRICT_TRANSPORT = { 'Strict-Transport-Security': 'max-age=31536000' };

/** Headers that every answer carries. */
export const SECURITY_HEADERS: Readonly<Record<string, string>> = {
  'X-Content-Type-Options': 'nosniff',
  'X-Frame-Options': 'DENY',
  'Referrer-Policy': 'no-referrer',
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'Permissions-Policy': 'camera=(), microphone=(), geolocation=()',
};
