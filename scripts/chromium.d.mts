export function chromiumPath(): string | null;
export const CHROMIUM_ARGS: string[];
