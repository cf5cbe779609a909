/** The commands of a PDF page: what they work on, one after another, as the page says them. */

/** A value among the commands: a number, a name (without its slash), a list, or something that no line needs. */
export type Operand =
  | { readonly kind: 'number'; readonly value: number }
  | { readonly kind: 'name'; readonly value: string }
  | { readonly kind: 'list'; readonly items: readonly Operand[] }
  | { readonly kind: 'other' };

export interface PdfCommand {
  readonly name: string;
  readonly operands: readonly Operand[];
}

const OTHER: Operand = { kind: 'other' };
const isSpace = (c: number): boolean => c === 32 || (c >= 9 && c <= 13) || c === 0;
const isDelimiter = (c: number): boolean => '()<>[]{}/%'.includes(String.fromCharCode(c));
const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)$/;
/** Operands that pile up without a command beyond this are dropped. */
const MOST_OPERANDS = 1_000;

/** Goes through a content stream: text, dictionaries and pictures in it are passed over. */
export function* pdfCommands(bytes: Uint8Array): Generator<PdfCommand> {
  let at = 0;
  const word = (): string => {
    const from = at;
    while (at < bytes.length && !isSpace(bytes[at]) && !isDelimiter(bytes[at])) at++;
    return Array.from(bytes.subarray(from, at), (c) => String.fromCharCode(c)).join('');
  };
  const skipText = () => {
    for (let depth = 0; at < bytes.length; at++) {
      const c = bytes[at];
      if (c === 92) at++;
      else if (c === 40) depth++;
      else if (c === 41 && --depth === 0) {
        at++;
        return;
      }
    }
  };
  const skipDictionary = () => {
    for (let depth = 0; at < bytes.length;) {
      if (bytes[at] === 40) skipText();
      else if (bytes[at] === 60 && bytes[at + 1] === 60) [depth, at] = [depth + 1, at + 2];
      else if (bytes[at] === 62 && bytes[at + 1] === 62) {
        [depth, at] = [depth - 1, at + 2];
        if (depth === 0) return;
      } else at++;
    }
  };
  /** The next operand, or the name of a command; undefined at the end. */
  const next = (inList: boolean): Operand | string | undefined => {
    for (;;) {
      while (at < bytes.length && isSpace(bytes[at])) at++;
      if (bytes[at] !== 37) break;
      while (at < bytes.length && bytes[at] !== 10 && bytes[at] !== 13) at++;
    }
    if (at >= bytes.length) return undefined;
    switch (bytes[at]) {
      case 47: {
        at++;
        const name = word().replace(/#([0-9a-f]{2})/gi, (_, hex: string) =>
          String.fromCharCode(parseInt(hex, 16)),
        );
        return { kind: 'name', value: name };
      }
      case 40:
        skipText();
        return OTHER;
      case 60:
        if (bytes[at + 1] === 60) skipDictionary();
        else {
          while (at < bytes.length && bytes[at] !== 62) at++;
          at++;
        }
        return OTHER;
      case 91: {
        at++;
        const items: Operand[] = [];
        for (
          let item = inList ? undefined : next(true);
          item !== undefined && item !== ']';
          item = next(true)
        )
          if (typeof item !== 'string' && items.length < MOST_OPERANDS) items.push(item);
        return { kind: 'list', items };
      }
      case 93:
        at++;
        return ']';
      case 41:
      case 62:
      case 123:
      case 125:
        at++;
        return OTHER;
    }
    const own = word();
    if (NUMBER.test(own)) return { kind: 'number', value: Number(own) };
    return own === '' ? OTHER : own;
  };
  let operands: Operand[] = [];
  for (let item = next(false); item !== undefined; item = next(false)) {
    if (typeof item !== 'string') {
      if (operands.length < MOST_OPERANDS) operands.push(item);
      continue;
    }
    if (item === 'ID') {
      // A picture within the page: to where it ends.
      while (
        at < bytes.length &&
        !(
          isSpace(bytes[at - 1]) &&
          bytes[at] === 69 &&
          bytes[at + 1] === 73 &&
          (at + 2 >= bytes.length || isSpace(bytes[at + 2]))
        )
      )
        at++;
      at += 2;
      operands = [];
      yield { name: 'EI', operands };
      continue;
    }
    yield { name: item, operands };
    operands = [];
  }
}
