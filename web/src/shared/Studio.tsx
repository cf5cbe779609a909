import { createTheme, MantineProvider, type MantineColorsTuple } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { Component, type ReactNode } from 'react';

const juniper: MantineColorsTuple = [
  '#eef5f0',
  '#d5e3d8',
  '#b4d0bf',
  '#8cb9a2',
  '#659f85',
  '#3a785e',
  '#2a6351',
  '#235446',
  '#1b4439',
  '#12332b',
];
const persimmon: MantineColorsTuple = [
  '#fdf1ea',
  '#f6dccb',
  '#eebd9f',
  '#e59b70',
  '#dc7b47',
  '#cb5a26',
  '#b3431a',
  '#963714',
  '#792b0f',
  '#5d200a',
];
const paper: MantineColorsTuple = [
  '#ece6d8',
  '#d6cfbf',
  '#aca695',
  '#7d786a',
  '#46463d',
  '#3a3a32',
  '#2b2b26',
  '#24241f',
  '#1b1b18',
  '#121210',
];

const warmGrey: MantineColorsTuple = [
  '#f7f3ea',
  '#ece5d6',
  '#ddd3bd',
  '#cfc4ad',
  '#b9ad93',
  '#98907c',
  '#767263',
  '#5d5f5b',
  '#3c3e3c',
  '#26292a',
];

const theme = createTheme({
  primaryColor: 'juniper',
  primaryShade: { light: 6, dark: 5 },
  colors: { juniper, persimmon, gray: warmGrey, dark: paper },
  black: '#26292a',
  fontFamily: "'Source Sans 3 Variable', sans-serif",
  fontFamilyMonospace: "'Source Sans 3 Variable', sans-serif",
  headings: { fontFamily: "'Alegreya Variable', serif", fontWeight: '600' },
  fontSizes: { xs: '11.5px', sm: '13px', md: '14px', lg: '16px', xl: '19px' },
  defaultRadius: 2,
  cursorType: 'pointer',
  autoContrast: true,
  components: {
    Button: { defaultProps: { size: 'xs' } },
    ActionIcon: { defaultProps: { variant: 'subtle', size: 'md' } },
    TextInput: { defaultProps: { size: 'xs' } },
    NumberInput: { defaultProps: { size: 'xs' } },
    Select: { defaultProps: { size: 'xs', allowDeselect: false, comboboxProps: { shadow: 'md' } } },
    SegmentedControl: { defaultProps: { size: 'xs' } },
    Switch: { defaultProps: { size: 'xs' } },
    Slider: { defaultProps: { size: 'sm' } },
    Textarea: { defaultProps: { size: 'xs' } },
    Tooltip: { defaultProps: { openDelay: 350, withArrow: true } },
    CloseButton: { defaultProps: { 'aria-label': 'Close' } },
    Modal: {
      defaultProps: { centered: true, overlayProps: { backgroundOpacity: 0.35 } },
      classNames: { title: 'title-face dialog-title' },
    },
    Drawer: { classNames: { title: 'title-face dialog-title' } },
  },
});

/** Shows what went wrong instead of an empty page; nothing that was kept is lost by loading again. */
class Safe extends Component<{ children: ReactNode }, { fault: Error | null }> {
  override state = { fault: null as Error | null };

  static getDerivedStateFromError(fault: Error) {
    return { fault };
  }

  override render() {
    if (!this.state.fault) return this.props.children;
    return (
      <div className="starting" role="alert">
        <div>
          <h2>This page ran into a fault</h2>
          <p>{this.state.fault.message}</p>
          <p>
            Your work is kept. <a href="">Load the page again</a> or go back to <a href="/">the shelf</a>.
          </p>
        </div>
      </div>
    );
  }
}

/** What every page stands in: theme, notices, and a safety net. */
export function Studio({ children }: { children: ReactNode }) {
  return (
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <Notifications className="notices" position="bottom-left" containerWidth={188} limit={3} />
      <Safe>{children}</Safe>
    </MantineProvider>
  );
}
