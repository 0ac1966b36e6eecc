import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

/** Warm paper, ink, and one strong accent: the look of every widget. */
export const paperTheme = definePreset(Aura, {
  primitive: {
    borderRadius: { none: '0', xs: '1px', sm: '2px', md: '3px', lg: '4px', xl: '6px' },
  },
  components: {
    togglebutton: { colorScheme: { light: { root: { color: '#4a453b', hoverColor: '#1f2528' } } } },
  },
  semantic: {
    primary: {
      50: '#eef6f6',
      100: '#d2e7e8',
      200: '#a8d0d3',
      300: '#76b3b8',
      400: '#3f8f96',
      500: '#0b5d66',
      600: '#094f57',
      700: '#084249',
      800: '#07363c',
      900: '#062b30',
      950: '#041c1f',
    },
    focusRing: { width: '2px', style: 'solid', color: '{primary.color}', offset: '1px' },
    formField: { paddingX: '0.6rem', paddingY: '0.36rem', borderRadius: '3px' },
    list: { option: { padding: '0.34rem 0.6rem' } },
    colorScheme: {
      light: {
        surface: {
          0: '#fffdf8',
          50: '#f8f4ea',
          100: '#f1ebdd',
          200: '#e4dccb',
          300: '#d3c9b4',
          400: '#a79d88',
          500: '#6a6354',
          600: '#625b4d',
          700: '#4a453b',
          800: '#332f29',
          900: '#23201c',
          950: '#171512',
        },
        text: { color: '#1f2528', mutedColor: '#59605f', hoverColor: '#1f2528', hoverMutedColor: '#3d4546' },
      },
      dark: {
        primary: { color: '#6cc0c8', contrastColor: '#10181a', hoverColor: '#8ad0d6', activeColor: '#a6dde1' },
        surface: {
          0: '#fffdf8',
          50: '#f3efe6',
          100: '#e2ddd0',
          200: '#c7c1b3',
          300: '#a8a397',
          400: '#8b877d',
          500: '#67645d',
          600: '#4a4945',
          700: '#383836',
          800: '#292a2a',
          900: '#1e2021',
          950: '#151718',
        },
        text: { color: '#ece7dc', mutedColor: '#b3aea2', hoverColor: '#fffdf8', hoverMutedColor: '#d0cabd' },
      },
    },
  },
});
