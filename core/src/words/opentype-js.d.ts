/** The part of the font library that is used. */
declare module 'opentype.js' {
  export type PathCommand =
    | { readonly type: 'M'; readonly x: number; readonly y: number }
    | { readonly type: 'L'; readonly x: number; readonly y: number }
    | { readonly type: 'Q'; readonly x1: number; readonly y1: number; readonly x: number; readonly y: number }
    | {
        readonly type: 'C';
        readonly x1: number;
        readonly y1: number;
        readonly x2: number;
        readonly y2: number;
        readonly x: number;
        readonly y: number;
      }
    | { readonly type: 'Z' };

  export interface Glyph {
    readonly index: number;
    readonly advanceWidth?: number;
    getPath(x: number, y: number, fontSize: number): { readonly commands: readonly PathCommand[] };
  }

  export interface Font {
    readonly unitsPerEm: number;
    readonly ascender: number;
    readonly descender: number;
    readonly names: { readonly fontFamily?: Readonly<Record<string, string>> };
    readonly position: {
      getDefaultScriptName(): string | undefined;
      getKerningTables(script?: string): readonly object[] | undefined;
      getKerningValue(tables: readonly object[], left: number, right: number): number;
    };
    charToGlyphIndex(char: string): number;
    charToGlyph(char: string): Glyph;
    stringToGlyphs(text: string): Glyph[];
    getKerningValue(left: Glyph, right: Glyph): number;
  }

  export function parse(buffer: ArrayBuffer): Font;
}
