import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

/** The colours of the house on the widgets of the library; the rest is in styles.css. */
export const theme = definePreset(Aura, {
  semantic: {
    primary: { 50: '#FBF4EE', 100: '#F5E6DC', 200: '#E9CDB8', 300: '#D6A67F', 400: '#BB7445', 500: '#98461A', 600: '#863D16', 700: '#713312', 800: '#5A290F', 900: '#45200C', 950: '#2E1507' },
    colorScheme: {
      light: {
        primary: { color: '#98461A', contrastColor: '#FFFFFF', hoverColor: '#863D16', activeColor: '#713312' },
        surface: { 0: '#FFFFFF', 50: '#F3F5F4', 100: '#E6EAE8', 200: '#D3D9D6', 300: '#BBC4C0', 400: '#8F9995', 500: '#565E6B', 600: '#454D58', 700: '#333C47', 800: '#1B2530', 900: '#141C25', 950: '#0C1218' },
      },
    },
  },
});
