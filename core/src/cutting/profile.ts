import type { Layer } from '../dieline/part.ts';
import { USUAL_STORE, type CutterProfile, type Store } from '../stock/store.ts';

/** How a cutter tells layers apart: stroke colours and widths of the exported file, and the tool that makes each. */
export interface CutProfile {
  readonly id: string;
  readonly name: string;
  readonly colours: Readonly<Record<Layer, string>>;
  readonly tools: Readonly<Record<Layer, string>>;
  readonly strokeMm: number;
}

const asProfile = ({
  id,
  name,
  strokeMm,
  cutTool,
  scoreTool,
  markTool,
  ...colours
}: CutterProfile): CutProfile => ({
  id,
  name,
  strokeMm,
  colours,
  tools: {
    cut: cutTool,
    perforation: cutTool,
    kiss: cutTool,
    mountain: scoreTool,
    valley: scoreTool,
    score: scoreTool,
    mark: markTool,
  },
});

/** The profiles that ship. */
export const PROFILES: readonly CutProfile[] = Object.values(USUAL_STORE.profiles).map(asProfile);

/** A profile of a store; the first that ships where it has none of that id. */
export const profileIn = (store: Partial<Pick<Store, 'profiles'>>, id: string): CutProfile =>
  store.profiles && Object.hasOwn(store.profiles, id)
    ? asProfile(store.profiles[id])
    : (PROFILES.find((profile) => profile.id === id) ?? PROFILES[0]);

/** The tools of a profile in the order in which they are taken up, each with the layers that it makes. */
export function toolsOf({
  tools,
}: CutProfile): readonly { readonly tool: string; readonly layers: readonly Layer[] }[] {
  const order: readonly Layer[] = ['mark', 'mountain', 'valley', 'score', 'perforation', 'kiss', 'cut'];
  return [...new Set(order.map((layer) => tools[layer]))].map((tool) => ({
    tool,
    layers: order.filter((layer) => tools[layer] === tool),
  }));
}
