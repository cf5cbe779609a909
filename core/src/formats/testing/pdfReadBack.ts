/** PDF files read back by the library alone: sizes of pages, their commands, and the words on them. */
import { decodePDFRawStream, PDFArray, PDFDocument, PDFRawStream } from 'pdf-lib';

const PT = 72 / 25.4;

/** The commands of each page as text. */
export async function pagesOf(bytes: Uint8Array): Promise<{ size: [number, number]; text: string }[]> {
  const pdf = await PDFDocument.load(bytes);
  return pdf.getPages().map((page) => {
    const contents = page.node.Contents();
    const streams =
      contents instanceof PDFArray ? contents.asArray().map((ref) => pdf.context.lookup(ref)) : [contents];
    const text = streams
      .map((stream) =>
        Array.from(decodePDFRawStream(stream as PDFRawStream).decode(), (c) => String.fromCharCode(c)).join(
          '',
        ),
      )
      .join('\n');
    return { size: [page.getWidth() / PT, page.getHeight() / PT], text };
  });
}

/** The words of each page as they are written, piece after piece. */
export async function wordsOf(bytes: Uint8Array): Promise<string[]> {
  return (await pagesOf(bytes)).map(({ text }) =>
    [...text.matchAll(/<([0-9A-Fa-f]*)> Tj/g)]
      .map(([, hex]) => hex.replace(/../g, (two) => String.fromCharCode(parseInt(two, 16))))
      .join(' '),
  );
}
