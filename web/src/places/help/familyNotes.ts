/** What people look at on each mechanism before it is cut, and what goes wrong with it most. */
export interface FamilyNote {
  readonly inspect: string;
  readonly wrong: string;
}

export const FAMILY_NOTES: Readonly<Record<string, FamilyNote>> = {
  step: {
    inspect:
      'That foot and panel on one side are together as long as on the other, and that they stay inside the card when it is closed.',
    wrong:
      'One foot glued a little aslant: the step racks and strains. A step too deep pokes out of the open edge.',
  },
  vfold: {
    inspect:
      'How far the tip travels, where it lies when the card is closed, and that both feet make the same angle with the fold.',
    wrong:
      'Feet at different angles, or the point not on the fold: it binds half-way. The tip pokes out when the angle is too flat.',
  },
  platform: {
    inspect:
      'That all supports are equally high and stand equally far from the fold, so that the layer stays level.',
    wrong: 'Supports of different heights pull the layer askew. What stands on it catches on the card.',
  },
  zigzag: {
    inspect:
      'That the points of the folds stay behind the open edge, and that what the panels carry clears its neighbours.',
    wrong:
      'Pieces wider than their panels meet when it closes. In a gatefold the strip runs into a door on its way.',
  },
  cutInWord: {
    inspect: 'That every letter hangs on bridges at top and bottom, and that counters are held.',
    wrong:
      'Bridges too narrow for the stock tear the first time it is opened. A thin letter bends instead of standing.',
  },
  spinner: {
    inspect: 'That the triangles turn inside out freely, and that the arms pass each other and the card.',
    wrong: 'Glue that runs into a triangle locks it. Pieces on the arms catch: try each after it is on.',
  },
  riser: {
    inspect: 'That what is on the arm is narrower than the box inside and shorter than the closed card.',
    wrong: 'The arm is glued before the box is closed round it, or is left behind its slot.',
  },
  uprights: {
    inspect:
      'That the props are parallel to the panels of the floor, and that their slots are wide enough for the stock.',
    wrong: 'Props that are not parallel lean. Slots too tight tear the floor when it closes.',
  },
  standUp: {
    inspect: 'That the gusset folds away flat, and that the window stays inside the card.',
    wrong: 'Glue on the gusset itself: it must stay free, and only its tabs are glued.',
  },
  crossed: {
    inspect:
      'That the half slots are half as deep as the pieces are high, and as wide as the stock is thick, with a little room.',
    wrong:
      'Slots that do not meet in the middle: one piece stands higher. Pieces put together the wrong way up.',
  },
  sidePull: {
    inspect: 'How high the flag goes, and that its pocket is deep enough to take it in again.',
    wrong: 'A pull that cannot be grasped, since something lies over its end. Glue in the channel.',
  },
  waterfall: {
    inspect:
      'That the flaps are equally far apart, that the strip is long enough for the pull, and where it is glued.',
    wrong: 'Glue beyond the given bands: the strip does not run. A holder without room for the layers jams.',
  },
  slider: {
    inspect: 'That the stops hold it in, and that the knob reaches past what lies over it.',
    wrong: 'A channel glued too tight. A stop that is shorter than the slot is wide slips through.',
  },
  wheel: {
    inspect: 'That the pictures stand right in the aperture, and that a finger reaches the edge of the disc.',
    wrong: 'A pivot pressed too tight: it must turn by itself. Glue of the cover runs under the disc.',
  },
  pendulum: {
    inspect: 'That the bob is seen all the way through its aperture and the pivot is not.',
    wrong:
      'The hanger is glued aslant, so that it hangs to one side. On a top fold it must hang towards the open edge.',
  },
  flipPanel: {
    inspect:
      'Which cuts go through and which folds are left whole, and that the middle turns without touching.',
    wrong: 'A partial cut that goes too far lets the middle fall out.',
  },
  liftFlap: {
    inspect:
      'That a finger gets under its edge, and that the fold is scored on the side towards which it lifts.',
    wrong: 'Glue beyond the hinge: the flap opens half-way and cracks.',
  },
  door: {
    inspect: 'That the tongue reaches its slit and holds the door shut.',
    wrong: 'A slit as wide as the tongue and no wider: it tears after a few openings.',
  },
  easel: {
    inspect: 'The tilt, and that the stop is high enough for the weight of the panel.',
    wrong: 'An aperture cut through all layers where only the front should be cut.',
  },
  bentStand: {
    inspect: 'That the strips are as long as their curves ask for, and that the grain runs across the bend.',
    wrong: 'Scoring a strip that should only bend. Slits too short for the tabs.',
  },
  strut: {
    inspect:
      'That it is taken out before the card is closed, and that the slits hold it at the angle that is wanted.',
    wrong: 'A strut left in bends the card when it closes.',
  },
  label: {
    inspect: 'That only the tongue is glued, so that both faces stay clean.',
    wrong: 'A tongue wider than what it stands on shows behind it.',
  },
  bellyBand: {
    inspect: 'The thickness that it goes round: of the closed card with all that is in it.',
    wrong: 'A band made for the plain card: with the mechanism in it, it does not go round.',
  },
  layered: {
    inspect: 'That the borders are equal, that stripes line up, and that frames keep land to glue.',
    wrong: 'An aperture as large as the frame: nothing is left to glue to.',
  },
  mats: {
    inspect:
      'That borders are the same all round, and that what is built on the mat reckons with its thickness.',
    wrong: 'A mat over the fold that has no fold of its own.',
  },
  insert: {
    inspect:
      'That it is a little smaller than the card, and that its own cuts stay clear of the glued edges.',
    wrong: 'Glued all over: then nothing that is cut into it can rise.',
  },
  envelope: {
    inspect: 'That the card goes in with everything that sticks out of it, and how thick it is.',
    wrong: 'Made for the plain card: with the bulk of a mechanism the seams burst.',
  },
  envelopeBox: {
    inspect: 'That it is as deep as the closed card at its thickest place.',
    wrong: 'A lid without room for the stock: it does not tuck in.',
  },
  wallet: {
    inspect: 'That what goes in slides easily, and that the tongue reaches its slot.',
    wrong: 'Glue that reaches into the pocket. A tongue too wide for its slot.',
  },
  tray: {
    inspect:
      'Inside and outside sizes, and that the lid is larger by the stock on both sides and a little air.',
    wrong: 'A lid of the same size as the tray. Tabs glued outside instead of inside the walls.',
  },
  slideSleeve: {
    inspect: 'That it is wider than the tray by the stock and a little air, and glued square.',
    wrong: 'Glued aslant: the tray jams half-way.',
  },
  tuckBox: {
    inspect: 'That the tuck is a little narrower than the box, and the dust flaps do not meet it.',
    wrong: 'All four walls equally wide: the one that is glued under must be narrower.',
  },
  sidedBox: {
    inspect: 'That all sides are equal, and that the last tab is in reach when it is closed.',
    wrong: 'Tabs glued before the folds were burnished: the box stands askew.',
  },
  pillowBox: {
    inspect: 'The depth of the arcs: too steep, and the ends do not close.',
    wrong: 'Arcs that are creased hard: they should be scored lightly and bent in with the thumb.',
  },
  petalBox: {
    inspect: 'That the petals overlap evenly, each over the next, the last under the first.',
    wrong: 'Arcs too steep for the stock: the petals spring open.',
  },
  bag: {
    inspect:
      'That it folds flat, where the handles are fixed, and how much the paper must give in the gussets.',
    wrong: 'Gussets folded the wrong way: it stands, and does not fold flat again.',
  },
  explodingBox: {
    inspect: 'That each cross is smaller than the one round it by its walls, and the lid fits over all.',
    wrong: 'Inner crosses glued off the middle: the walls do not fall evenly.',
  },
  twistedPrism: {
    inspect: 'Its two states, and how much the paper must give between them.',
    wrong:
      'Diagonals folded the other way: it turns to the other side. Heavy stock cracks when it is pressed flat.',
  },
  rolledCone: {
    inspect: 'That the grain runs along the axis, and that the discs fit inside.',
    wrong: 'Rolled against the grain it kinks into facets.',
  },
};
