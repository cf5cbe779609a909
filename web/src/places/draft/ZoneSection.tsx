import type { DraftedPart } from '@hollow-finch/core/design/design';
import type { GlueZone } from '@hollow-finch/core/dieline/part';
import { boxOf } from '@hollow-finch/core/geometry/path';
import { ActionIcon, Select, Switch } from '@mantine/core';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { IconTrash } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';
import { measured, resized, type ZoneMeasure } from './zoneEdits.ts';

const ZONE_SIDES: readonly (readonly [(zone: string) => string, ZoneMeasure])[] = [
  [(zone) => `${zone} from the left`, 'left'],
  [(zone) => `${zone} from below`, 'low'],
  [(zone) => `Width of ${zone.toLowerCase()}`, 'width'],
  [(zone) => `Height of ${zone.toLowerCase()}`, 'height'],
];

/** The zones of a drafted part: what is glued and what must stay free, on which face, with what. */
export function ZoneSection({ part }: { part: DraftedPart }) {
  const design = useJob((s) => s.calm);
  const { store } = useStudioStore();
  const { say } = useLengths();
  const zones = Object.values(part.glueZones);
  if (zones.length === 0) return null;
  const { edit } = useJob.getState();
  const change = (id: string, zone: GlueZone | null) => {
    const { [id]: _before, ...others } = part.glueZones;
    return {
      do: 'part' as const,
      id: part.id,
      value: { glueZones: zone ? { ...others, [id]: { ...zone } } : others },
    };
  };
  const used = new Set(
    Object.values(design.joints).flatMap((joint) =>
      joint.kind === 'glue' && joint.partId === part.id ? [joint.zoneId] : [],
    ),
  );
  return (
    <section>
      <h3>Glue zones</h3>
      {zones.map((zone, i) => {
        const box = boxOf(zone.outline);
        const name = `Zone ${i + 1}`;
        return (
          <div key={zone.id} className="fields joint">
            <p className="wide quiet figure">
              {name}: {say(box.maxX - box.minX)} × {say(box.maxY - box.minY)}
              {used.has(zone.id) ? ', glued' : ''}{' '}
              {!used.has(zone.id) && (
                <ActionIcon
                  variant="default"
                  size="sm"
                  aria-label={`Take ${name.toLowerCase()} away`}
                  onClick={() => edit('Take a zone away', change(zone.id, null))}
                >
                  <IconTrash size={13} />
                </ActionIcon>
              )}
            </p>
            <Select
              label="Kind"
              aria-label={`Kind of ${name.toLowerCase()}`}
              value={zone.kind}
              allowDeselect={false}
              data={[
                { value: 'glue', label: 'Glue' },
                { value: 'keepOut', label: 'Free of glue' },
              ]}
              onChange={(kind) =>
                kind && edit('Kind of a zone', change(zone.id, { ...zone, kind: kind as GlueZone['kind'] }))
              }
            />
            <Select
              label="Face"
              aria-label={`Face of ${name.toLowerCase()}`}
              value={zone.face}
              allowDeselect={false}
              data={[
                { value: 'front', label: 'Front' },
                { value: 'back', label: 'Back' },
              ]}
              onChange={(face) =>
                face && edit('Face of a zone', change(zone.id, { ...zone, face: face as GlueZone['face'] }))
              }
            />
            {ZONE_SIDES.map(([label, key]) => (
              <LengthField
                key={key}
                label={label(name)}
                valueMm={measured(box)[key]}
                minMm={key === 'width' || key === 'height' ? 1 : undefined}
                onCommit={(mm) =>
                  edit(
                    'Size of a zone',
                    change(zone.id, { ...zone, outline: resized(zone.outline, key, mm) }),
                  )
                }
              />
            ))}
            <Switch
              className="wide"
              label="Its outline marked on the paper"
              aria-label={`Mark ${name.toLowerCase()} on the paper`}
              checked={zone.marked === true}
              onChange={(event) => {
                const { marked: _marked, ...rest } = zone;
                edit(
                  'Mark of a zone',
                  change(zone.id, event.currentTarget.checked ? { ...rest, marked: true } : rest),
                );
              }}
            />
            {zone.kind === 'glue' && (
              <Select
                className="wide"
                label="Adhesive"
                aria-label={`Adhesive of ${name.toLowerCase()}`}
                placeholder="Any"
                clearable
                value={zone.adhesiveId ?? null}
                data={choicesOf('adhesives', store, design).map((item) => ({
                  value: item.id,
                  label: item.name,
                }))}
                onChange={(adhesiveId) => {
                  const { adhesiveId: _before, ...plain } = zone;
                  edit(
                    'Adhesive of a zone',
                    choosing(
                      design,
                      store,
                      'adhesives',
                      adhesiveId,
                      change(zone.id, adhesiveId === null ? plain : { ...plain, adhesiveId }),
                    ),
                  );
                }}
              />
            )}
          </div>
        );
      })}
    </section>
  );
}
