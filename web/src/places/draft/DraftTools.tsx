import { LAYERS, type Layer } from '@hollow-finch/core/dieline/part';
import type { Path } from '@hollow-finch/core/geometry/path';
import { ActionIcon, Button, Select, Tooltip } from '@mantine/core';
import { memo, Suspense, useState } from 'react';
import { IconCircle, IconLine, IconPlus, IconPointer, IconRectangle, IconRuler } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { later } from '../../shared/later.ts';
import { emptyPart, focusBoard } from './draftEdits.ts';
import { LAYER_NAMES } from './layerNames.ts';
import { besideAll } from './layout.ts';
import type { ShapeSettings } from './tools/drafting.ts';
import { isCutting, isPointed, isShaped, type Tool } from './tools/drawGesture.ts';

const DrawByNumbers = later(() => import('./tools/DrawByNumbers.tsx'));
const BringIn = later(() => import('./bringIn/BringIn.tsx'));
const SolidDialog = later(() => import('./solids/SolidDialog.tsx'));
const ToolSettings = later(() => import('./tools/ToolSettings.tsx'));

export const TOOLS: readonly {
  readonly id: Tool;
  readonly label: string;
  readonly key: string;
  readonly icon: typeof IconLine;
}[] = [
  { id: 'choose', label: 'Choose and move', key: 'v', icon: IconPointer },
  { id: 'line', label: 'Line', key: 'l', icon: IconLine },
  { id: 'rectangle', label: 'Rectangle', key: 'r', icon: IconRectangle },
  { id: 'circle', label: 'Circle, from its centre', key: 'c', icon: IconCircle },
  { id: 'measure', label: 'Measure', key: 'd', icon: IconRuler },
];

/** Tools that are chosen from a list; some have a key. */
export const MORE_TOOLS: readonly { readonly id: Tool; readonly label: string; readonly key?: string }[] = [
  { id: 'lasso', label: 'Choose by a loop', key: 'o' },
  { id: 'polyline', label: 'Line with corners', key: 'p' },
  { id: 'arc', label: 'Arc through three points', key: 'a' },
  { id: 'curve', label: 'Curve', key: 'b' },
  { id: 'ellipse', label: 'Ellipse' },
  { id: 'polygon', label: 'Regular polygon' },
  { id: 'star', label: 'Star' },
  { id: 'scallop', label: 'Scalloped outline' },
  { id: 'trim', label: 'Trim a line', key: 't' },
  { id: 'splitAt', label: 'Split a line' },
  { id: 'extend', label: 'Make a line longer', key: 'e' },
  { id: 'bridge', label: 'Bridge across a cut', key: 'i' },
];

/** How a tool is used, where that is not plain. */
const HINTS: Readonly<Partial<Record<Tool, string>>> = {
  lasso: 'Draw a loop round lines of the chosen part, or round parts: what lies wholly inside is chosen.',
  polyline: 'Press each corner. Enter ends it, its first corner closes it, Esc takes the last one back.',
  arc: 'Press both ends, then a point that it goes through.',
  curve: 'Drag from end to end, then draw it by its handles.',
  polygon: 'Drag from its centre to a corner.',
  star: 'Drag from its centre to a tip.',
  trim: 'Press on the stretch of a line that is to go: as far as other lines cross it.',
  splitAt: 'Press on a line where it is to be cut in two.',
  bridge: 'Drag from paper to paper, across a cut or over what falls out.',
  extend: 'Press on a line near the end that is to go on until it meets another.',
};

/** Adds an empty part beside what is there, ready to be drawn on. */
function addPart(onTool: (tool: Tool) => void): void {
  const { design, edit, select } = useJob.getState();
  const part = emptyPart(design);
  const at = besideAll(design, 60);
  edit(`Add ${part.name}`, {
    do: 'all',
    commands: [
      { do: 'put', in: 'parts', id: part.id, value: part },
      { do: 'put', in: 'board', id: part.id, value: at },
    ],
  });
  select({ kind: 'part', id: part.id });
  onTool('rectangle');
  focusBoard();
}

/** The tools above the board. They stay as they are while something is dragged. */
export const DraftTools = memo(function DraftTools({
  tool,
  onTool,
  layer,
  onLayer,
  onMechanism,
  numbersOn,
  onDraw,
  onAdded,
  settings,
  onSettings,
}: {
  tool: Tool;
  onTool: (tool: Tool) => void;
  layer: Layer;
  onLayer: (layer: Layer) => void;
  onMechanism: () => void;
  /** The name of the part that is drawn on by numbers. */
  numbersOn: string | undefined;
  onDraw: (path: Path) => void;
  onAdded: () => void;
  settings: ShapeSettings | null;
  onSettings: (settings: ShapeSettings) => void;
}) {
  const [bringing, setBringing] = useState(false);
  const [solid, setSolid] = useState(false);
  return (
    <>
      <div className="tools" role="toolbar" aria-label="Tools">
        <Button
          variant="default"
          leftSection={<IconPlus size={15} />}
          onClick={onMechanism}
          aria-haspopup="dialog"
        >
          Mechanism
        </Button>
        <Button
          variant="default"
          onClick={() => {
            addPart(onTool);
            onAdded();
          }}
        >
          New part
        </Button>
        <Button variant="default" onClick={() => setBringing(true)} aria-haspopup="dialog">
          Bring in
        </Button>
        <Button variant="default" onClick={() => setSolid(true)} aria-haspopup="dialog">
          Solid
        </Button>
        <span className="tools-gap" />
        {TOOLS.map(({ id, label, key, icon: Icon }) => (
          <Tooltip key={id} label={`${label} (${key.toUpperCase()})`}>
            <ActionIcon
              variant={tool === id ? 'filled' : 'default'}
              aria-label={label}
              aria-pressed={tool === id}
              onClick={() => onTool(id)}
            >
              <Icon size={16} />
            </ActionIcon>
          </Tooltip>
        ))}
        <Select
          aria-label="More tools"
          placeholder="More tools"
          w={170}
          comboboxProps={{ width: 220, position: 'bottom-start' }}
          value={MORE_TOOLS.some(({ id }) => id === tool) ? tool : null}
          data={MORE_TOOLS.map(({ id, label, key }) => ({
            value: id,
            label: key ? `${label} (${key.toUpperCase()})` : label,
          }))}
          onChange={(value) => onTool((value as Tool | null) ?? 'choose')}
        />
      </div>
      {(isShaped(tool) || isPointed(tool)) && (
        <div className="measure-bar">
          {tool !== 'bridge' && (
            <Select
              aria-label="Layer of new lines"
              w={150}
              value={layer}
              data={LAYERS.map((l) => ({ value: l, label: LAYER_NAMES[l] }))}
              onChange={(value) => value && onLayer(value as Layer)}
            />
          )}
          <Suspense fallback={null}>
            <ToolSettings tool={tool} settings={settings} onSettings={onSettings} />
            <DrawByNumbers key={tool} tool={tool} onDraw={onDraw} where={numbersOn} />
          </Suspense>
          <span className="quiet">{HINTS[tool]}</span>
        </div>
      )}
      {(isCutting(tool) || tool === 'lasso') && (
        <p className="measure-bar quiet" role="status">
          {HINTS[tool]}
        </p>
      )}
      {solid && (
        <Suspense fallback={null}>
          <SolidDialog onClose={() => setSolid(false)} onLaid={onAdded} />
        </Suspense>
      )}
      {bringing && (
        <Suspense fallback={null}>
          <BringIn onClose={() => setBringing(false)} onBroughtIn={onAdded} />
        </Suspense>
      )}
    </>
  );
});
