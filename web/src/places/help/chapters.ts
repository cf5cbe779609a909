/** The help: the craft in a maker's words. */
export interface Chapter {
  readonly id: string;
  readonly title: string;
  readonly paragraphs: readonly string[];
}

export const CHAPTERS: readonly Chapter[] = [
  {
    id: 'order',
    title: 'The order of work',
    paragraphs: [
      'A job goes from left to right: Brief, Draft, Fold, Inspect, Sheets, Cut, Build. Each stage shows its state as a figure in the rail, so that nothing has to be opened to be known.',
      'You can go back at any time. Whatever you change, everything after it is worked out again: what is out of date says so.',
      'Everything can be undone, also after the page was loaded again. Every saved state is kept as a revision, and can be compared and put back.',
    ],
  },
  {
    id: 'brief',
    title: 'Brief: sizes, envelopes and what goes in',
    paragraphs: [
      'Begin from any end: the closed size, the blank at hand, the envelope, or what goes in. What you typed is held; what follows from it is shown as such.',
      'The blank of a folded card is twice as wide as the closed card (twice as high for a top fold) and scored in the middle. A gatefold has two half doors.',
      'An envelope fits when the closed card with everything that sticks out of it goes in with some room on each side. Thickness counts: a card with a mechanism in it is thicker than a plain one.',
      'The score plan says where to score from one edge, in your units, and what rounding does to each line.',
    ],
  },
  {
    id: 'draft',
    title: 'Draft: lines, layers and mechanisms',
    paragraphs: [
      'Lines lie on layers: cut, mountain, valley, perforation, kiss cut and mark. A mountain folds away from you and a valley towards you, as the part lies front up.',
      'A mechanism from the drawer stands on a fold or lies on a panel. Drag its handles, or type its measures: “4 3/8in - 2mm” is understood.',
      'What you draw on a mechanism’s part stays with its panel when the mechanism is changed.',
      'Build from the base up: blank, mats, mechanism on the mat, pieces on the mechanism.',
    ],
  },
  {
    id: 'glue',
    title: 'Glue, tape and tabs',
    paragraphs: [
      'A tab must lie wholly on its landing. A piece is decoration: it is glued by one end and may stand beyond what holds it.',
      'Wet glue can be shifted for a moment and must dry; tape holds at once and forgives nothing. Foam pads raise a layer.',
      'A keep-out zone is where glue would ruin it: in a channel, on a triangle that must turn, under a flap that must lift.',
    ],
  },
  {
    id: 'fold',
    title: 'Fold: opening and closing it on screen',
    paragraphs: [
      'The movement is solved from the lines and the joints themselves. A catch is where one piece meets another: the strip below marks the angles, and a press goes there.',
      'What pokes out when the card is closed is measured against its open edges.',
      '“Strains” says by how many millimetres the paper would have to bend, since no rigid paper could follow.',
    ],
  },
  {
    id: 'inspect',
    title: 'Inspect: findings and what to do with them',
    paragraphs: [
      'Each finding says what was measured, what the limit is and where that comes from. A mend is offered where a safe one was tried.',
      'A finding can be accepted with a reason. It comes back when the place changes.',
      'No finding means that every rule was looked at; if one could not be, that is said.',
    ],
  },
  {
    id: 'stock',
    title: 'Stock and grain',
    paragraphs: [
      'A fold along the grain is clean; across it the paper cracks or wanders. The main fold and long mechanism folds lie along the grain.',
      'Mechanisms want stiff smooth card. Heavy stock folds better when its folds are worked both ways first.',
      'Thickness matters: a slot is as wide as the layers in it and a little more; a lid is larger than its box by twice the stock and some air.',
    ],
  },
  {
    id: 'sheets',
    title: 'Sheets: packing',
    paragraphs: [
      'All parts of all copies are packed by stock onto as few sheets as can be found, inside what the machine reaches. Lock a piece to keep it where it is, and pack on.',
      'Beside the use of each sheet stands the bound that no packing can beat. What is left over can be kept in the store and is taken the next time.',
    ],
  },
  {
    id: 'cut',
    title: 'Cut: files and the machine',
    paragraphs: [
      'Scores and perforations come first, then inner cuts, then outlines. Cuts move to the waste side by half the kerf. Nicks hold parts in the sheet until they are pushed out.',
      'The rehearsal reads the saved file itself and shows which piece comes loose when. Every saved file is a numbered cut job.',
      'Test strips (coupons) tell the kerf, the slot width, the nick and the perforation of a stock on a machine: read them once, and the values are offered.',
    ],
  },
  {
    id: 'plates',
    title: 'Cutting plates',
    paragraphs: [
      'A plate has a land of metal on both sides of each rule; rules nearer than the blade gap cannot be made. Inner rules hang on metal bridges.',
      'The price goes by area: leave a large plain rectangle to the guillotine, put a small shape on twice, and look at the difference first.',
    ],
  },
  {
    id: 'build',
    title: 'Build: the sheet, the schedule and trials',
    paragraphs: [
      'The build sheet is found from the joints: what would be covered is glued before it is covered, what goes through a slot goes through before both parts are fixed.',
      'Change words, times and order as you like. What you changed stays with its step; if the design no longer has it, that is said.',
      'Write down every trial build: what caught and where, and the change it led to. The next job of its kind shows it.',
    ],
  },
  {
    id: 'kits',
    title: 'Kits',
    paragraphs: [
      'A kit is several designs and loose parts, so many of them. They are packed together, and what is lacking becomes a shopping list.',
      'Make a job of a kit to cut it: its sheets are cut like those of any other job.',
    ],
  },
  {
    id: 'learn',
    title: 'Learn',
    paragraphs: [
      'Find what was planted in a draft; say where a mechanism lies when the card is closed; guess how many sheets a run takes. The score is kept by group.',
    ],
  },
  {
    id: 'files',
    title: 'Files in and out',
    paragraphs: [
      'Drawings come in from SVG, DXF and PDF, solids from OBJ, STL and glTF. Cut files go out as SVG, DXF and PDF in true size; folded shapes as OBJ, STL and FOLD.',
      'A job can be saved as a file with everything that is kept of it, and brought in again elsewhere.',
    ],
  },
  {
    id: 'care',
    title: 'Care',
    paragraphs: [
      'Knives and blades are sharp: cut away from the other hand. Never cut PVC, vinyl or unknown film with a laser, and never leave a running laser.',
      'Ventilate when you use solvents or spray adhesive. Some glues have latex in them, to which people can be allergic.',
      'Brads, magnets, gems and cords are not for children under three; loose magnets are dangerous when swallowed.',
      'Local rules and what trained people say come first. Nothing here is a certificate.',
    ],
  },
  {
    id: 'keys',
    title: 'Keys',
    paragraphs: [
      'Press ? in a job for all its keys. Alt and a number goes to a stage, Ctrl Z undoes, Ctrl Shift Z does it again.',
    ],
  },
];
