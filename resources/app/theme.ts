import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

/** Strictly neutral greys: nothing near the picture may tint the eye. The lightest is the lightest thing on screen. */
const grey = {
  0: '#c8c8c8',
  50: '#c8c8c8',
  100: '#bdbdbd',
  200: '#a8a8a8',
  300: '#8f8f8f',
  400: '#767676',
  500: '#5a5a5a',
  600: '#4a4a4a',
  700: '#383838',
  800: '#2d2d2d',
  900: '#232323',
  950: '#161616',
};

/** Every notice looks the same; words and a glyph tell what it is. */
const notice = { background: '#161616', borderColor: '#4a4a4a', color: '#c8c8c8', detailColor: '#b2b2b2', shadow: '0 4px 16px #0008', closeButton: { hoverBackground: '#383838', focusRing: { color: '#c8c8c8', shadow: 'none' } } };

/** Small things of the interface that are larger in the preset. */
const components = {
  toast: { root: { borderRadius: '2px', width: '22rem' }, colorScheme: { dark: { secondary: notice } }, summary: { fontWeight: '600', fontSize: '13px' }, detail: { fontWeight: '400', fontSize: '13px' }, icon: { size: '0' }, content: { padding: '8px 12px', gap: '8px' } },
  toggleswitch: {
    root: { width: '24px', height: '14px', gap: '2px' },
    handle: { size: '8px' },
    colorScheme: { dark: { root: { background: '#232323', hoverBackground: '#2d2d2d', borderColor: '#a3a3a3', hoverBorderColor: '#c8c8c8', checkedBackground: '#232323', checkedHoverBackground: '#2d2d2d', checkedBorderColor: '#b2b2b2', checkedHoverBorderColor: '#c8c8c8' }, handle: { background: '#8a8a8a', hoverBackground: '#a3a3a3', checkedBackground: '#c8c8c8', checkedHoverBackground: '#c8c8c8' } } },
  },
  checkbox: { root: { width: '16px', height: '16px', borderColor: '#8a8a8a', hoverBorderColor: '#c8c8c8' }, icon: { size: '11px' } },
  radiobutton: { root: { width: '16px', height: '16px', borderColor: '#8a8a8a', hoverBorderColor: '#c8c8c8' }, icon: { size: '8px' } },
  togglebutton: { root: { borderRadius: '0', fontWeight: '400' }, colorScheme: { dark: { root: { background: 'transparent', hoverBackground: '#383838', checkedBackground: '#c8c8c8', color: '#b2b2b2', hoverColor: '#c8c8c8', checkedColor: '#161616', borderColor: 'transparent', checkedBorderColor: 'transparent' }, content: { checkedBackground: 'transparent' } } } },
  accordion: { root: { transitionDuration: '0s' }, panel: { borderColor: '#434343' }, header: { padding: '8px 16px', fontWeight: '400' }, content: { padding: '0', background: 'transparent' } },
  datatable: {
    header: { background: 'transparent' },
    headerCell: { background: 'transparent', borderColor: '#434343', color: '#a3a3a3', padding: '8px 12px' },
    columnTitle: { fontWeight: '400' },
    row: { background: 'transparent', color: '#c8c8c8' },
    bodyCell: { borderColor: '#434343', padding: '12px' },
    colorScheme: { dark: { root: { borderColor: '#434343' }, bodyCell: { selectedBorderColor: '#434343' } } },
  },
  confirmdialog: { icon: { size: '0' }, content: { gap: '0' } },
  menu: { item: { padding: '4px 12px' } },
  dialog: { header: { padding: '16px 20px 8px' }, content: { padding: '8px 20px 20px' }, title: { fontSize: '16px' } },
};

const preset = definePreset(Aura, {
  components,
  primitive: { borderRadius: { none: '0', xs: '2px', sm: '2px', md: '2px', lg: '2px', xl: '2px' } },
  semantic: {
    transitionDuration: '0.08s',
    focusRing: { width: '1px', style: 'solid', color: '#c8c8c8', offset: '1px' },
    primary: grey,
    colorScheme: {
      dark: {
        surface: grey,
        primary: { color: '#c8c8c8', contrastColor: '#161616', hoverColor: '#bdbdbd', activeColor: '#a8a8a8' },
        highlight: { background: '#4a4a4a', focusBackground: '#5a5a5a', color: '#c8c8c8', focusColor: '#c8c8c8' },
        text: { color: '#c8c8c8', hoverColor: '#c8c8c8', mutedColor: '#a3a3a3', hoverMutedColor: '#b2b2b2' },
        content: { background: '#2d2d2d', hoverBackground: '#383838', borderColor: '#434343', color: '#c8c8c8', hoverColor: '#c8c8c8' },
        overlay: {
          select: { background: '#2d2d2d', borderColor: '#4a4a4a', color: '#c8c8c8' },
          popover: { background: '#2d2d2d', borderColor: '#4a4a4a', color: '#c8c8c8' },
          modal: { background: '#2d2d2d', borderColor: '#4a4a4a', color: '#c8c8c8' },
        },
        formField: { background: '#232323', borderColor: '#7c7c7c', hoverBorderColor: '#a3a3a3', focusBorderColor: '#c8c8c8', color: '#c8c8c8', placeholderColor: '#a3a3a3', paddingX: '8px', paddingY: '4px' },
      },
    },
  },
});

export const theme = { preset, options: { darkModeSelector: '.dark', cssLayer: { name: 'primevue', order: 'reset, primevue, app' } } };
