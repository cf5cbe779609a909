/** The demo jobs of the observatory shop at Tallow Hill (made up), made by calling core. */
import { newDesign, type Design, type DraftedPart } from '@hollow-finch/core/design/design';
import { circle, polyline, type Path } from '@hollow-finch/core/geometry/path';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { cometDraft } from './cometDraft.ts';
import { cometSlide, hilltopEvening, passSleeve } from './makers.ts';
import { byId, line, mechanism, onPanel, part } from './making.ts';
import { standingJobs } from './standing.ts';

export interface DemoJob {
  readonly id: string;
  readonly design: Design;
}

/** A dome of half a circle over a wall, `width` wide, with a slit for the telescope; its foot strip is glued to the step. */
function domePiece(id: string, width: number, wall: number): DraftedPart {
  const r = width / 2;
  const outline: Path = {
    start: [0, 0],
    segments: [
      { kind: 'line', to: [width, 0] },
      { kind: 'line', to: [width, wall] },
      { kind: 'arc', to: [0, wall], bulge: 1 },
      { kind: 'line', to: [0, 0] },
    ],
  };
  const slit = polyline(
    [
      [r - 3, wall + 3],
      [r + 3, wall + 3],
      [r + 3, wall + r - 5],
      [r - 3, wall + r - 5],
    ],
    true,
  );
  return part(id, 'Dome', 'brass-foil', [line('outline', 'cut', outline), line('slit', 'cut', slit)], {
    glueZones: {
      back: {
        id: 'back',
        outline: [
          [2, 2],
          [width - 2, 2],
          [width - 2, wall - 2],
          [2, wall - 2],
        ],
        face: 'back',
        kind: 'glue',
      },
    },
  });
}

/** The main example: a step that carries a dome, and a V-fold telescope below it. */
function domeNight(): Design {
  const design = newDesign('Dome Night', {
    closedWidthMm: 148,
    closedHeightMm: 105,
    envelopeId: 'c6',
    note: 'Opening night of the small dome. Goes out with a folded letter.',
  });
  const dome = domePiece('p1', 36, 14);
  return {
    ...design,
    settings: { ...design.settings, cardStockId: 'slate-240' },
    instances: {
      m1: mechanism(design, 'm1', 'step', 'Dome step', 'chalk-300', {
        leftMm: 40,
        rightMm: 46,
        panelMm: 46,
        alongMm: 56,
        widthMm: 44,
        tabMm: 9,
      }),
      m2: mechanism(design, 'm2', 'vfold', 'Telescope', 'ember-160', {
        alongMm: 12,
        leftFootDeg: 42,
        rightFootDeg: 42,
        panelDeg: 45,
        footMm: 38,
        creaseMm: 46,
        edgeMm: 6,
        tabMm: 7,
      }),
    },
    parts: { p1: dome },
    joints: {
      // The dome in the middle of the step's right panel (46 to 86 mm from the strip's left foot), upright.
      j1: {
        id: 'j1',
        kind: 'glue',
        partId: 'p1',
        zoneId: 'back',
        hostPartId: 'm1/strip',
        placement: shift(48, 6),
        mate: null,
      },
    },
  };
}

/** A line drawn on a panel of a mechanism's part. */
/** Eight phases of the moon on a wheel behind a round aperture. */
function moonWheel(): Design {
  const design = newDesign('Moon Wheel', {
    closedWidthMm: 140,
    closedHeightMm: 140,
    note: 'Eight phases; the finger notch is on the right.',
  });
  const phases = 8;
  const [distance, radius] = [34, 10];
  // The terminator is an arc over the same chord as the lit limb; its bulge grows from one half moon to the other.
  const moons = Array.from({ length: phases }, (_, i) => {
    const angle = Math.PI / 2 + (i * 2 * Math.PI) / phases;
    const centre = [distance * Math.cos(angle), distance * Math.sin(angle)] as const;
    const up = [Math.cos(angle) * radius, Math.sin(angle) * radius] as const;
    const lit = Math.cos((i * 2 * Math.PI) / phases);
    return onPanel(`a${i + 1}`, 'm1/disc', 'disc', 'kiss', {
      start: [centre[0] - up[0], centre[1] - up[1]],
      segments: [
        { kind: 'arc', to: [centre[0] + up[0], centre[1] + up[1]], bulge: i < phases / 2 ? 1 : -1 },
        {
          kind: 'arc',
          to: [centre[0] - up[0], centre[1] - up[1]],
          bulge: (i < phases / 2 ? -1 : 1) * lit * 0.98,
        },
      ],
    });
  });
  return {
    ...design,
    settings: { ...design.settings, cardStockId: 'slate-240' },
    instances: {
      m1: mechanism(design, 'm1', 'wheel', 'Moon wheel', 'chalk-300', {
        radiusMm: 54,
        pictures: phases,
        apertureMm: 24,
        distanceMm: distance,
        notchMm: 7,
        landMm: 7,
      }),
    },
    additions: byId(moons),
  };
}

/** A waterfall of four frames: a meteor falls from one to the next. */
function meteorRun(): Design {
  const design = newDesign('Meteor Run', {
    closedWidthMm: 120,
    closedHeightMm: 165,
    note: 'Four frames, pulled from below.',
  });
  const [flap, width] = [52, 78];
  const frames = [1, 2, 3, 4].map((k) => {
    const x = -width / 2 + 8 + 15 * k;
    const y = -8 * k;
    return onPanel(
      `a${k}`,
      `m1/flap-${k}`,
      'flap',
      'kiss',
      polyline([
        [x - 14, y + 4],
        [x, y - 3],
        [x + 2, y - 1],
        [x - 14, y + 4],
      ]),
    );
  });
  return {
    ...design,
    settings: { ...design.settings, cardStockId: 'slate-240' },
    instances: {
      m1: mechanism(design, 'm1', 'waterfall', 'Meteor frames', 'ember-160', {
        edgeMm: 108,
        flaps: 4,
        spacingMm: 13,
        flapMm: flap,
        flapWidthMm: width,
        stripMm: 50,
        glueMm: 7,
        holderMm: 40,
        gripMm: 14,
      }),
    },
    additions: byId(frames),
  };
}

/** The hall's long pendulum, its bob seen through a round aperture. */
function swingingWeight(): Design {
  const design = newDesign('Swinging Weight', {
    closedWidthMm: 105,
    closedHeightMm: 160,
    note: 'The bob shows, the pivot does not.',
  });
  return {
    ...design,
    settings: { ...design.settings, cardStockId: 'chalk-300' },
    instances: {
      m1: mechanism(design, 'm1', 'pendulum', 'Long pendulum', 'slate-240', {
        alongMm: 138,
        rodMm: 92,
        bobMm: 26,
        wingsMm: 72,
        wingMm: 9,
        apertureMm: 28,
      }),
    },
    additions: byId([onPanel('a1', 'm1/bob', 'bob', 'kiss', circle([0, -92], 8))]),
  };
}

/** A plain top-fold card with a cut-in step: the quickest kit in the shop. */
function eveningProgramme(): Design {
  const design = newDesign('Evening Programme', {
    closedWidthMm: 120,
    closedHeightMm: 105,
    opening: 'top',
    envelopeId: 'b6',
    note: 'No glue at all: handed out at the door.',
  });
  return {
    ...design,
    settings: { ...design.settings, cardStockId: 'ember-160', copies: 6 },
    instances: {
      m1: mechanism(design, 'm1', 'step', 'Bench', 'ember-160', {
        form: 'cutIn',
        leftMm: 28,
        rightMm: 36,
        alongMm: 36,
        widthMm: 48,
      }),
    },
  };
}

/** A floating layer with star holes in its right plane, drawn onto the panel, and a V-fold at the support's foot. */
function starTerrace(): Design {
  const design = newDesign('Star Terrace', {
    closedWidthMm: 150,
    closedHeightMm: 110,
    envelopeId: 'b6',
    note: 'Seats on the terrace float above the hill.',
  });
  const terrace = mechanism(design, 'm1', 'platform', 'Terrace', 'slate-240', {
    leftMm: 16,
    rightMm: 16,
    panelMm: 30,
    planeLeftMm: 60,
    planeRightMm: 60,
    alongMm: 22,
    widthMm: 66,
    tabMm: 8,
  });
  const stars = [
    [12, 14, 2.4],
    [30, 40, 3.2],
    [46, 20, 1.8],
    [22, 54, 1.6],
  ] as const;
  return {
    ...design,
    instances: {
      m1: terrace,
      m2: {
        ...mechanism(design, 'm2', 'vfold', 'Bench', 'ember-160', {
          alongMm: 20,
          leftFootDeg: 40,
          panelDeg: 50,
          footMm: 20,
          rightFootMm: 20,
          creaseMm: 22,
          edgeMm: 5,
          tabMm: 5,
          taperMm: 2,
        }),
        host: { partId: 'm1/strip', gutterId: 'foot-left' },
      },
    },
    additions: Object.fromEntries(
      stars.map(([x, y, r], i) => [
        `a${i + 1}`,
        {
          id: `a${i + 1}`,
          partId: 'm1/right-plane',
          panelId: 'plane',
          line: line(`added-a${i + 1}`, 'cut', circle([x, y], r)),
        },
      ]),
    ),
  };
}

/** All demo jobs, in the order of the shelf. */
/** Stars that fly from shutter to shutter of a gatefold, along a zigzag. */
function shutterStars(): Design {
  const design = newDesign('Shutter Stars', {
    closedWidthMm: 150,
    closedHeightMm: 110,
    opening: 'gate',
    envelopeId: 'b6',
    note: 'Both shutters open on the night sky; the stars cross it on a zigzag.',
  });
  const strip = mechanism(design, 'm1', 'zigzag', 'Shooting stars', 'ember-160', {
    folds: 4,
    widthMm: 60,
  });
  const star = ([x, y]: readonly [number, number], r: number): Path =>
    polyline(
      Array.from({ length: 10 }, (_, i): [number, number] => {
        const angle = Math.PI / 2 + (i * Math.PI) / 5;
        const at = i % 2 === 0 ? r : 0.45 * r;
        return [x + at * Math.cos(angle), y + at * Math.sin(angle)];
      }),
      true,
    );
  return {
    ...design,
    settings: { ...design.settings, cardStockId: 'slate-240' },
    instances: { m1: strip },
    additions: byId(
      Array.from({ length: 5 }, (_, i) =>
        onPanel(`a${i + 1}`, 'm1/strip', `panel-${i}`, 'cut', star([25, i % 2 === 0 ? 38 : 20], 9 - i)),
      ),
    ),
  };
}

export function demoJobs(): DemoJob[] {
  return [
    { id: 'dome-night', design: domeNight() },
    { id: 'moon-wheel', design: moonWheel() },
    { id: 'meteor-run', design: meteorRun() },
    { id: 'swinging-weight', design: swingingWeight() },
    { id: 'star-terrace', design: starTerrace() },
    { id: 'evening-programme', design: eveningProgramme() },
    { id: 'shutter-stars', design: shutterStars() },
    { id: 'hilltop-evening', design: hilltopEvening() },
    { id: 'comet-slide', design: cometSlide() },
    { id: 'pass-sleeve', design: passSleeve() },
    ...standingJobs(),
    { id: 'comet-draft', design: cometDraft() },
  ];
}
