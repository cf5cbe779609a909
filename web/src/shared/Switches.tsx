import {
  ActionIcon,
  SegmentedControl,
  Tooltip,
  useComputedColorScheme,
  useMantineColorScheme,
} from '@mantine/core';
import { IconMoon, IconSun } from './icons.ts';
import { useUnit } from './units.ts';

/** Millimetres or inches, for all that is shown. */
export function UnitSwitch() {
  const [unit, setUnit] = useUnit();
  return (
    <SegmentedControl
      aria-label="Unit"
      value={unit}
      onChange={(value) => setUnit(value === 'in' ? 'in' : 'mm')}
      data={[
        { value: 'mm', label: 'mm' },
        { value: 'in', label: 'in' },
      ]}
    />
  );
}

/** Daylight or evening. */
export function SchemeSwitch() {
  const { setColorScheme } = useMantineColorScheme();
  const dark = useComputedColorScheme('light') === 'dark';
  return (
    <Tooltip label={dark ? 'Daylight' : 'Evening'}>
      <ActionIcon
        aria-label={dark ? 'Light colours' : 'Dark colours'}
        onClick={() => setColorScheme(dark ? 'light' : 'dark')}
      >
        {dark ? <IconSun size={17} /> : <IconMoon size={17} />}
      </ActionIcon>
    </Tooltip>
  );
}
