/** FOLD: our own patterns come back, edges of others by their letters, and what is broken is refused in words. */
import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../../design/design.ts';
import { cardGutter, tableGutter } from '../../design/frames.ts';
import { isClosedPath } from '../../geometry/curve.ts';
import { pathLength } from '../../geometry/path.ts';
import { seededRandom } from '../../geometry/random.ts';
import { expand } from '../../mechanisms/expand.ts';
import { newInstance } from '../../mechanisms/instance.ts';
import { familyById } from '../../mechanisms/registry.ts';
import { STRUCTURES } from '../../mechanisms/structures/all.ts';
import { linkageOf } from '../../motion/linkage.ts';
import { sweep } from '../../motion/sweep.ts';
import { writeFold } from '../foldWrite.ts';
import { NotReadable, type Drawing } from './drawing.ts';
import { readFold } from './fold.ts';

const empty: Design = { ...newDesign('Fold'), base: { kind: 'structure', rootPartId: null } };
const lengths = ({ lines }: Drawing): Record<string, number> => {
  const sums: Record<string, number> = {};
  for (const { layer, path } of lines) sums[layer] = (sums[layer] ?? 0) + pathLength(path);
  return sums;
};

it.each(['tray', 'tuckBox', 'wallet'])('the pattern of a %s comes back, fold by fold', (id) => {
  const family = STRUCTURES.find((each) => each.id === id)!;
  const { parts, ...rest } = expand({
    ...empty,
    instances: {
      m1: newInstance(family, tableGutter(empty), 'm1', { params: { withLid: false, closing: 'tongue' } }),
    },
  });
  const drawing = readFold(writeFold(sweep(linkageOf({ parts, ...rest })), 90, 'Pattern'));
  expect(drawing.sure).toBe(true);
  expect(drawing.sizes).toEqual([{ label: 'mm', mmPerUnit: 1 }]);
  const wanted: Record<string, number> = {};
  for (const { process, fold, path } of parts[0].lines) {
    const layer = process === 'cut' ? 'cut' : fold && fold.sense;
    if (layer) wanted[layer] = (wanted[layer] ?? 0) + pathLength(path);
  }
  const found = lengths(drawing);
  expect(Object.keys(found).sort()).toEqual(Object.keys(wanted).sort());
  // Arcs are written as chords.
  for (const [layer, mm] of Object.entries(wanted)) expect(found[layer] / mm).toBeCloseTo(1, 2);
  // The outline is one closed line.
  expect(drawing.lines.some(({ layer, path }) => layer === 'cut' && isClosedPath(path))).toBe(true);
});

it('the pattern of a word that is cut into its card comes back with each cut once, though both its sides are in the file', () => {
  const card = newDesign('Word', { closedWidthMm: 110, closedHeightMm: 105 });
  const { parts, ...rest } = expand({
    ...card,
    instances: { m1: newInstance(familyById('cutInWord')!, cardGutter(card), 'm1') },
  });
  const drawing = readFold(writeFold(sweep(linkageOf({ parts, ...rest })), 60, 'Word'));
  expect(drawing.notes.join()).toMatch(/there twice were read once/);
  const wanted = parts[0].lines.reduce(
    (sum, { process, path }) => sum + (process === 'cut' ? pathLength(path) : 0),
    0,
  );
  // Arcs are written as chords; apertures are filled in by no panel.
  expect(lengths(drawing).cut / wanted).toBeCloseTo(1, 2);
});

const square = {
  frame_unit: 'in',
  vertices_coords: [
    [0, 0],
    [2, 0],
    [2, 2],
    [0, 2],
  ],
  edges_vertices: [
    [0, 1],
    [1, 2],
    [2, 3],
    [3, 0],
    [0, 2],
    [1, 1],
  ],
  edges_assignment: ['B', 'B', 'B', 'B', 'M', 'V'],
};

describe('patterns of others', () => {
  it('are read by their letters and in their unit; what stays flat is left out and said', () => {
    const drawing = readFold(JSON.stringify(square));
    expect(drawing.lines.map(({ layer }) => layer).sort()).toEqual(['cut', 'mountain']);
    expect(drawing.sizes).toEqual([{ label: 'in', mmPerUnit: 25.4 }]);
    expect(drawing.notes).toEqual(['Edges without a length were left out']);
    const flat = readFold(JSON.stringify({ ...square, edges_assignment: ['B', 'B', 'B', 'B', 'F', 'F'] }));
    expect(flat.lines).toHaveLength(1);
    expect(pathLength(flat.lines[0].path)).toBeCloseTo(8, 9);
    // Without letters, or with unknown ones, edges are scores; without a unit several sizes are offered.
    const { edges_assignment: _letters, frame_unit: _unit, ...bare } = square;
    const read = readFold(JSON.stringify(bare));
    expect(read.lines.every(({ layer }) => layer === 'score')).toBe(true);
    expect([read.sure, read.sizes.length > 1]).toEqual([false, true]);
  });

  it('a file of folded frames finds the flat one, and one without any is refused', () => {
    const folded = { ...square, vertices_coords: square.vertices_coords.map(([x, y], i) => [x, y, i]) };
    expect(readFold(JSON.stringify({ ...folded, file_frames: [square] })).lines).toHaveLength(2);
    expect(() => readFold(JSON.stringify(folded))).toThrow(
      /only folded frames: save the flat crease pattern/,
    );
  });

  it.each([
    ['{"vertices_coords": [[0,', /breaks off in the middle/],
    ['[]', /no FOLD file/],
    ['{}', /no edges/],
    [JSON.stringify({ ...square, vertices_coords: 3 }), /“vertices_coords” should be a list/],
    [
      JSON.stringify({
        ...square,
        vertices_coords: [
          [0, 0],
          ['a', 1],
        ],
      }),
      /Vertex 1 .* two or three numbers/,
    ],
    [JSON.stringify({ ...square, edges_vertices: [[0, 9]] }), /Edge 0 .* two vertices that there are/],
    [
      JSON.stringify({
        ...square,
        vertices_coords: [
          [0, 1e30],
          [1, 1],
          [2, 2],
          [3, 3],
        ],
      }),
      /Vertex 0/,
    ],
  ])('%s is refused with what is wrong', (text, words) => {
    expect(() => readFold(text)).toThrow(words);
  });

  it('mangled ones are read or refused in words, never otherwise', () => {
    const random = seededRandom(8);
    const text = JSON.stringify(square);
    for (let i = 0; i < 2000; i++) {
      let broken = text;
      for (let k = 0; k < 1 + Math.floor(3 * random()); k++) {
        const at = Math.floor(random() * broken.length);
        const what = ['', '[', ']', '{', '}', ',', '"', '9', '-', 'null', '1e9', broken.slice(at, at + 9)];
        broken =
          broken.slice(0, at) +
          what[Math.floor(random() * what.length)] +
          broken.slice(at + Math.floor(4 * random()));
      }
      try {
        for (const { path } of readFold(broken).lines) expect(Number.isFinite(pathLength(path))).toBe(true);
      } catch (fault) {
        expect(fault).toBeInstanceOf(NotReadable);
      }
    }
  });
});
