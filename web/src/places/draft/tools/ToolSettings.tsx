import { useEffect } from 'react';
import { CountField } from '../../../shared/fields/CountField.tsx';
import { LengthField } from '../../../shared/fields/LengthField.tsx';
import { USUAL_SETTINGS, type ShapeSettings } from './drafting.ts';
import type { Tool } from './drawGesture.ts';

/** What the shape of the tool that is held is asked for beside its place. */
export default function ToolSettings({
  tool,
  settings,
  onSettings,
}: {
  tool: Tool;
  settings: ShapeSettings | null;
  onSettings: (settings: ShapeSettings) => void;
}) {
  useEffect(() => {
    if (!settings) onSettings(USUAL_SETTINGS);
  }, [settings, onSettings]);
  const now = settings ?? USUAL_SETTINGS;
  const put = (change: Partial<ShapeSettings>) => onSettings({ ...now, ...change });
  const fields = () => {
    switch (tool) {
      case 'rectangle':
        return (
          <LengthField
            label="Corner radius"
            valueMm={now.radiusMm}
            minMm={0}
            maxMm={500}
            onCommit={(radiusMm) => put({ radiusMm })}
          />
        );
      case 'polygon':
        return (
          <CountField label="Sides" value={now.sides} min={3} max={60} onCommit={(sides) => put({ sides })} />
        );
      case 'star':
        return (
          <>
            <CountField
              label="Points"
              value={now.points}
              min={3}
              max={60}
              onCommit={(points) => put({ points })}
            />
            <CountField
              label="Inner, %"
              hint="How far out its inner corners are, of its tips."
              value={Math.round(now.innerShare * 100)}
              min={5}
              max={95}
              onCommit={(share) => put({ innerShare: share / 100 })}
            />
          </>
        );
      case 'bridge':
        return (
          <LengthField
            label="Bridge width"
            hint="At least the least web of the stock."
            valueMm={now.bridgeMm}
            minMm={0.2}
            maxMm={8}
            onCommit={(bridgeMm) => put({ bridgeMm })}
          />
        );
      case 'scallop':
        return (
          <LengthField
            label="Bow width"
            hint="About: bows divide each side evenly."
            valueMm={now.bowMm}
            minMm={1}
            maxMm={200}
            onCommit={(bowMm) => put({ bowMm })}
          />
        );
      default:
        return null;
    }
  };
  const shown = fields();
  return shown && <span className="tool-settings">{shown}</span>;
}
