/** The faces that ship, under open licences, each with the files that its characters are in. */
import alegreyaCyrillic from '@fontsource/alegreya/files/alegreya-cyrillic-400-normal.woff?url';
import alegreyaGreek from '@fontsource/alegreya/files/alegreya-greek-400-normal.woff?url';
import alegreyaExt from '@fontsource/alegreya/files/alegreya-latin-ext-400-normal.woff?url';
import alegreya from '@fontsource/alegreya/files/alegreya-latin-400-normal.woff?url';
import bungeeExt from '@fontsource/bungee/files/bungee-latin-ext-400-normal.woff?url';
import bungee from '@fontsource/bungee/files/bungee-latin-400-normal.woff?url';
import dancingExt from '@fontsource/dancing-script/files/dancing-script-latin-ext-400-normal.woff?url';
import dancing from '@fontsource/dancing-script/files/dancing-script-latin-400-normal.woff?url';
import notoCyrillic from '@fontsource/noto-sans/files/noto-sans-cyrillic-400-normal.woff?url';
import notoCyrillicExt from '@fontsource/noto-sans/files/noto-sans-cyrillic-ext-400-normal.woff?url';
import notoDevanagari from '@fontsource/noto-sans/files/noto-sans-devanagari-400-normal.woff?url';
import notoGreek from '@fontsource/noto-sans/files/noto-sans-greek-400-normal.woff?url';
import notoGreekExt from '@fontsource/noto-sans/files/noto-sans-greek-ext-400-normal.woff?url';
import notoExt from '@fontsource/noto-sans/files/noto-sans-latin-ext-400-normal.woff?url';
import noto from '@fontsource/noto-sans/files/noto-sans-latin-400-normal.woff?url';
import notoVietnamese from '@fontsource/noto-sans/files/noto-sans-vietnamese-400-normal.woff?url';
import pacificoCyrillic from '@fontsource/pacifico/files/pacifico-cyrillic-400-normal.woff?url';
import pacificoExt from '@fontsource/pacifico/files/pacifico-latin-ext-400-normal.woff?url';
import pacifico from '@fontsource/pacifico/files/pacifico-latin-400-normal.woff?url';
import sairaExt from '@fontsource/saira-stencil-one/files/saira-stencil-one-latin-ext-400-normal.woff?url';
import saira from '@fontsource/saira-stencil-one/files/saira-stencil-one-latin-400-normal.woff?url';
import sourceCyrillic from '@fontsource/source-sans-3/files/source-sans-3-cyrillic-400-normal.woff?url';
import sourceGreek from '@fontsource/source-sans-3/files/source-sans-3-greek-400-normal.woff?url';
import sourceExt from '@fontsource/source-sans-3/files/source-sans-3-latin-ext-400-normal.woff?url';
import source from '@fontsource/source-sans-3/files/source-sans-3-latin-400-normal.woff?url';

export interface Face {
  readonly id: string;
  readonly name: string;
  /** Its files, asked one after another for each character. */
  readonly files: readonly string[];
}

export const FACES: readonly Face[] = [
  {
    id: 'noto',
    name: 'Noto Sans, many languages',
    files: [
      noto,
      notoExt,
      notoVietnamese,
      notoGreek,
      notoGreekExt,
      notoCyrillic,
      notoCyrillicExt,
      notoDevanagari,
    ],
  },
  { id: 'source', name: 'Source Sans', files: [source, sourceExt, sourceGreek, sourceCyrillic] },
  {
    id: 'alegreya',
    name: 'Alegreya, serif',
    files: [alegreya, alegreyaExt, alegreyaGreek, alegreyaCyrillic],
  },
  { id: 'bungee', name: 'Bungee, broad', files: [bungee, bungeeExt] },
  { id: 'saira', name: 'Saira Stencil', files: [saira, sairaExt] },
  { id: 'pacifico', name: 'Pacifico, brush script', files: [pacifico, pacificoExt, pacificoCyrillic] },
  { id: 'dancing', name: 'Dancing Script', files: [dancing, dancingExt] },
];
