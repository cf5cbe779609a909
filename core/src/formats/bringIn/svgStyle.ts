/** The style of elements of a drawing: presentation, rules by their specificity, style attributes, and what is handed down. */
import * as csstree from 'css-tree';
import { localName, type Element } from './xml.ts';

/** Properties that matter for die lines. */
const PROPERTIES = [
  'display',
  'visibility',
  'opacity',
  'color',
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-opacity',
  'stroke-width',
  'stroke-dasharray',
] as const;
type Property = (typeof PROPERTIES)[number];
export type Style = Readonly<Record<Property, string>>;

/** What goes on to the elements within. */
const HANDED_DOWN: ReadonlySet<Property> = new Set<Property>([
  'visibility',
  'color',
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-opacity',
  'stroke-width',
  'stroke-dasharray',
]);

export const FIRST_STYLE: Style = {
  display: 'inline',
  visibility: 'visible',
  opacity: '1',
  color: 'black',
  fill: 'black',
  'fill-opacity': '1',
  stroke: 'none',
  'stroke-opacity': '1',
  'stroke-width': '1',
  'stroke-dasharray': 'none',
};

interface Declared {
  readonly property: Property;
  readonly value: string;
  readonly important: boolean;
}

interface RuleOf {
  readonly selector: csstree.Selector;
  readonly weight: number;
  readonly order: number;
  readonly declared: readonly Declared[];
}

const isProperty = (name: string): name is Property => (PROPERTIES as readonly string[]).includes(name);

function declaredIn(list: csstree.CssNode): Declared[] {
  const out: Declared[] = [];
  csstree.walk(list, (node) => {
    if (node.type !== 'Declaration') return;
    const property = node.property.toLowerCase();
    if (isProperty(property))
      out.push({ property, value: csstree.generate(node.value).trim(), important: node.important !== false });
  });
  return out;
}

/** Weight of a selector: ids, then classes, attributes and states, then names. */
function weightOf(selector: csstree.Selector): number {
  let weight = 0;
  csstree.walk(selector, (node) => {
    if (node.type === 'IdSelector') weight += 1_000_000;
    else if (
      node.type === 'ClassSelector' ||
      node.type === 'AttributeSelector' ||
      node.type === 'PseudoClassSelector'
    )
      weight += 1_000;
    else if (node.type === 'TypeSelector' && node.name !== '*') weight += 1;
  });
  return weight;
}

const classesOf = (element: Element): readonly string[] =>
  (element.attributes.get('class') ?? '').split(/\s+/);

/** Whether one step of a selector means an element; states are never met. */
function meets(node: csstree.CssNode, element: Element): boolean {
  switch (node.type) {
    case 'TypeSelector':
      return node.name === '*' || localName(node.name) === localName(element.name);
    case 'ClassSelector':
      return classesOf(element).includes(node.name);
    case 'IdSelector':
      return element.attributes.get('id') === node.name;
    case 'AttributeSelector': {
      const value = element.attributes.get(node.name.name);
      if (value === undefined || !node.value) return value !== undefined && !node.value;
      const wanted = node.value.type === 'String' ? node.value.value : node.value.name;
      return node.matcher === '~='
        ? value.split(/\s+/).includes(wanted)
        : node.matcher === '=' && value === wanted;
    }
    case 'PseudoClassSelector':
      return node.name === 'root' && element.parent === null;
    default:
      return false;
  }
}

/** Whether a selector means an element: read from its end, up through what the element lies in. */
function matches(selector: csstree.Selector, element: Element): boolean {
  const nodes = selector.children.toArray();
  const from = (end: number, at: Element): boolean => {
    let i = end;
    while (i >= 0 && nodes[i].type !== 'Combinator') {
      if (!meets(nodes[i], at)) return false;
      i -= 1;
    }
    if (i < 0) return true;
    const combinator = (nodes[i] as csstree.Combinator).name;
    if (combinator === '>') return at.parent !== null && from(i - 1, at.parent);
    if (combinator === '+' || combinator === '~') {
      const siblings = at.parent?.children ?? [];
      const before = siblings.slice(0, siblings.indexOf(at));
      return combinator === '+'
        ? before.length > 0 && from(i - 1, before[before.length - 1])
        : before.some((each) => from(i - 1, each));
    }
    for (let up = at.parent; up; up = up.parent) if (from(i - 1, up)) return true;
    return false;
  };
  return from(nodes.length - 1, element);
}

/** The rules of all style sheets of a document. */
export class Styles {
  private readonly rules: RuleOf[] = [];

  constructor(sheets: readonly string[]) {
    let order = 0;
    for (const sheet of sheets) {
      const tree = csstree.parse(sheet.slice(0, 500_000), { onParseError: () => undefined });
      csstree.walk(tree, {
        visit: 'Rule',
        enter: (rule) => {
          if (rule.prelude.type !== 'SelectorList') return;
          const declared = declaredIn(rule.block);
          if (declared.length === 0) return;
          rule.prelude.children.forEach((selector) => {
            if (selector.type === 'Selector')
              this.rules.push({ selector, weight: weightOf(selector), order: order++, declared });
          });
        },
      });
    }
    this.rules.sort((a, b) => a.weight - b.weight || a.order - b.order);
  }

  /** The style of an element that lies in something with a style. */
  of(element: Element, outer: Style): Style {
    const own: Partial<Record<Property, string>> = {};
    const important = new Set<Property>();
    const set = (property: Property, value: string, urgent: boolean) => {
      if (important.has(property) && !urgent) return;
      if (urgent) important.add(property);
      if (isValid(property, value)) own[property] = value;
    };
    for (const property of PROPERTIES) {
      const value = element.attributes.get(property);
      if (value !== undefined) set(property, value.trim(), false);
    }
    for (const { selector, declared } of this.rules)
      if (matches(selector, element))
        for (const each of declared) set(each.property, each.value, each.important);
    const style = element.attributes.get('style');
    if (style !== undefined) {
      const list = csstree.parse(style.slice(0, 100_000), {
        context: 'declarationList',
        onParseError: () => undefined,
      });
      for (const each of declaredIn(list)) set(each.property, each.value, each.important);
    }
    return Object.fromEntries(
      PROPERTIES.map((property) => {
        const value = own[property];
        const inherits = value === 'inherit' || (value === undefined && HANDED_DOWN.has(property));
        return [property, inherits ? outer[property] : (value ?? FIRST_STYLE[property])];
      }),
    ) as Style;
  }
}

/** Whether a value is one that counts: what is none is passed over, as if it were not there. */
function isValid(property: Property, value: string): boolean {
  if (value === '') return false;
  if (value === 'inherit') return true;
  if (property === 'fill' || property === 'stroke' || property === 'color')
    return colourOf(value, 'black') !== undefined || value.startsWith('url(');
  if (property === 'opacity' || property.endsWith('-opacity'))
    return Number.isFinite(Number.parseFloat(value));
  return true;
}

/** Names of the colours that drawings use most; others are told by their figures. */
const NAMED: Readonly<Record<string, string>> = {
  black: '#000000',
  white: '#ffffff',
  red: '#ff0000',
  lime: '#00ff00',
  green: '#008000',
  blue: '#0000ff',
  yellow: '#ffff00',
  cyan: '#00ffff',
  aqua: '#00ffff',
  magenta: '#ff00ff',
  fuchsia: '#ff00ff',
  gray: '#808080',
  grey: '#808080',
  silver: '#c0c0c0',
  maroon: '#800000',
  navy: '#000080',
  olive: '#808000',
  purple: '#800080',
  teal: '#008080',
  orange: '#ffa500',
  pink: '#ffc0cb',
  brown: '#a52a2a',
  gold: '#ffd700',
  violet: '#ee82ee',
  indigo: '#4b0082',
  crimson: '#dc143c',
  coral: '#ff7f50',
  salmon: '#fa8072',
  tomato: '#ff6347',
  darkred: '#8b0000',
  darkgreen: '#006400',
  darkblue: '#00008b',
  lightgray: '#d3d3d3',
  lightgrey: '#d3d3d3',
  darkgray: '#a9a9a9',
  darkgrey: '#a9a9a9',
  steelblue: '#4682b4',
  royalblue: '#4169e1',
  skyblue: '#87ceeb',
  forestgreen: '#228b22',
  limegreen: '#32cd32',
  turquoise: '#40e0d0',
  chocolate: '#d2691e',
  khaki: '#f0e68c',
  beige: '#f5f5dc',
  ivory: '#fffff0',
};

const hex = (value: number): string =>
  Math.max(0, Math.min(255, Math.round(value)))
    .toString(16)
    .padStart(2, '0');

/** A colour as #rrggbb; empty for none; undefined for what is no colour. */
export function colourOf(value: string, current: string): string | undefined {
  const text = value.trim().toLowerCase();
  if (text === 'none' || text === 'transparent') return '';
  if (text === 'currentcolor') return colourOf(current === 'currentcolor' ? 'black' : current, 'black');
  if (/^#[0-9a-f]{6}([0-9a-f]{2})?$/.test(text)) return text.slice(0, 7);
  if (/^#[0-9a-f]{3,4}$/.test(text)) return `#${[...text.slice(1, 4)].map((c) => c + c).join('')}`;
  const rgb = /^rgba?\(\s*([\d.]+)(%?)[\s,]+([\d.]+)(%?)[\s,]+([\d.]+)(%?)/.exec(text);
  if (rgb)
    return `#${[0, 1, 2].map((i) => hex(Number(rgb[1 + 2 * i]) * (rgb[2 + 2 * i] === '%' ? 2.55 : 1))).join('')}`;
  return Object.hasOwn(NAMED, text) ? NAMED[text] : undefined;
}
