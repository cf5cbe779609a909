import { LAYERS, type Layer } from '@hollow-finch/core/dieline/part';
import type { Path } from '@hollow-finch/core/geometry/path';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { ActionIcon, Button, Select, Tooltip } from '@mantine/core';
import { lazy, memo, Suspense } from 'react';
import { IconCircle, IconLine, IconPlus, IconPointer, IconRectangle, IconRuler } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { emptyPart, focusBoard } from './draftEdits.ts';
import { LAYER_NAMES } from './layerNames.ts';
import { boardBox, boardLayout } from './layout.ts';
import type { Tool } from './tools/drawGesture.ts';

const DrawByNumbers = lazy(() => import('./tools/DrawByNumbers.tsx'));

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

/** A new part lies so far from what is on the board, mm. */
const BESIDE_MM = 20;

/** Adds an empty part beside what is there, ready to be drawn on. */
function addPart(onTool: (tool: Tool) => void): void {
  const { design, edit, select } = useJob.getState();
  const part = emptyPart(design);
  const box = boardBox(boardLayout(expand(design), design.board));
  const bare = expand(design).parts.length === 0;
  const at = bare ? { x: 0, y: 0 } : { x: Math.round(box.maxX) + BESIDE_MM, y: Math.round(box.maxY) - 60 };
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
}) {
  return (
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
      {tool !== 'choose' && tool !== 'measure' && (
        <Select
          aria-label="Layer of new lines"
          w={150}
          value={layer}
          data={LAYERS.map((l) => ({ value: l, label: LAYER_NAMES[l] }))}
          onChange={(value) => value && onLayer(value as Layer)}
        />
      )}
      {tool !== 'choose' && tool !== 'measure' && (
        <Suspense fallback={null}>
          <DrawByNumbers key={tool} tool={tool} onDraw={onDraw} where={numbersOn} />
        </Suspense>
      )}
    </div>
  );
});
