/** A name as the beginning of a file's name: small letters and digits, with strokes between. */
export const fileNameOf = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'cut';
