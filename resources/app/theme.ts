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
const notice = { background: '#161616', borderColor: '#4a4a4a', color: '#c8c8c8', detailColor: '#a2a2a2', shadow: '0 4px 16px #0008', closeButton: { hoverBackground: '#383838', focusRing: { color: '#c8c8c8', shadow: 'none' } } };

const preset = definePreset(Aura, {
  components: { toast: { root: { borderRadius: '2px', width: '22rem' }, colorScheme: { dark: { secondary: notice } }, summary: { fontWeight: '600', fontSize: '13px' }, detail: { fontWeight: '400', fontSize: '13px' }, icon: { size: '0' }, content: { padding: '8px 12px', gap: '8px' } } },
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
        text: { color: '#c8c8c8', hoverColor: '#c8c8c8', mutedColor: '#8f8f8f', hoverMutedColor: '#a8a8a8' },
        content: { background: '#2d2d2d', hoverBackground: '#383838', borderColor: '#434343', color: '#c8c8c8', hoverColor: '#c8c8c8' },
        overlay: {
          select: { background: '#2d2d2d', borderColor: '#4a4a4a', color: '#c8c8c8' },
          popover: { background: '#2d2d2d', borderColor: '#4a4a4a', color: '#c8c8c8' },
          modal: { background: '#2d2d2d', borderColor: '#4a4a4a', color: '#c8c8c8' },
        },
        formField: { background: '#232323', borderColor: '#4a4a4a', hoverBorderColor: '#5a5a5a', focusBorderColor: '#c8c8c8', color: '#c8c8c8', paddingX: '8px', paddingY: '4px' },
      },
    },
  },
});

export const theme = { preset, options: { darkModeSelector: '.dark', cssLayer: { name: 'primevue', order: 'primevue, app' } } };
