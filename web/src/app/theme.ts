import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

const ink = { light: '#1B2530', dark: '#E4E9E7' };
const muted = { light: '#565E6B', dark: '#A3AFAB' };
const copper = { light: '#98461A', dark: '#E8A06D' };
const line = { light: '#D3D9D6', dark: '#3C4850' };
const panel = { light: '#FFFFFF', dark: '#222B31' };
const madder = { light: '#A32B3B', dark: '#F0909B' };
const edge = { light: '#8A938F', dark: '#75837F' };

const scheme = (tone: 'light' | 'dark') => ({
  primary: { color: copper[tone], contrastColor: tone === 'light' ? '#FFFFFF' : '#1A1310', hoverColor: tone === 'light' ? '#863D16' : '#F0B48A', activeColor: tone === 'light' ? '#713312' : '#F6C8A6' },
  surface:
    tone === 'light'
      ? { 0: '#FFFFFF', 50: '#F3F5F4', 100: '#E6EAE8', 200: '#D3D9D6', 300: '#BBC4C0', 400: '#8F9995', 500: '#565E6B', 600: '#454D58', 700: '#333C47', 800: '#1B2530', 900: '#141C25', 950: '#0C1218' }
      : { 0: '#E4E9E7', 50: '#C9D2CF', 100: '#B4BFBB', 200: '#A3AFAB', 300: '#8B9995', 400: '#75837F', 500: '#56636A', 600: '#3C4850', 700: '#2B353C', 800: '#222B31', 900: '#1B2328', 950: '#141A1E' },
  text: { color: ink[tone], hoverColor: ink[tone], mutedColor: muted[tone], hoverMutedColor: muted[tone] },
  formField: { background: tone === 'light' ? '#FFFFFF' : '#1B2328', borderColor: edge[tone], hoverBorderColor: copper[tone], focusBorderColor: copper[tone], color: ink[tone], placeholderColor: muted[tone] },
  content: { background: tone === 'light' ? '#FFFFFF' : '#222B31', borderColor: line[tone], color: ink[tone] },
  overlay: { select: { background: tone === 'light' ? '#FFFFFF' : '#222B31', borderColor: line[tone], color: ink[tone] } },
});

/** The look of the house on the widgets of the library: dense and calm, in the colours of styles.css. */
export const theme = definePreset(Aura, {
  semantic: {
    primary: { 50: '#FBF4EE', 100: '#F5E6DC', 200: '#E9CDB8', 300: '#D6A67F', 400: '#BB7445', 500: '#98461A', 600: '#863D16', 700: '#713312', 800: '#5A290F', 900: '#45200C', 950: '#2E1507' },
    formField: { paddingX: '7px', paddingY: '3px', borderRadius: '5px', sm: { fontSize: '14px', paddingX: '7px', paddingY: '2px' } },
    list: { padding: '3px', option: { padding: '4px 8px', borderRadius: '4px' }, optionGroup: { padding: '4px 8px' } },
    focusRing: { width: '2px', style: 'solid', color: '{primary.color}', offset: '1px' },
    transitionDuration: '0s',
    colorScheme: { light: scheme('light'), dark: scheme('dark') },
  },
  components: {
    button: {
      root: { paddingX: '12px', paddingY: '5px', borderRadius: '6px', gap: '6px', sm: { fontSize: '14px', paddingX: '6px', paddingY: '2px' }, label: { fontWeight: '600' } },
      colorScheme: Object.fromEntries(
        (['light', 'dark'] as const).map((tone) => [
          tone,
          {
            outlined: { secondary: { borderColor: line[tone], color: ink[tone], hoverBackground: tone === 'light' ? '#F5E6DC' : '#34291F', activeBackground: tone === 'light' ? '#E9CDB8' : '#46362A' } },
            text: { secondary: { color: ink[tone], hoverBackground: tone === 'light' ? '#F5E6DC' : '#34291F', activeBackground: tone === 'light' ? '#E9CDB8' : '#46362A' } },
          },
        ]),
      ),
    },
    datatable: { headerCell: { padding: '7px 10px' }, bodyCell: { padding: '7px 10px' }, columnTitle: { fontWeight: '600' }, colorScheme: { light: { root: { borderColor: line.light } }, dark: { root: { borderColor: line.dark } } } },
    checkbox: { root: { width: '17px', height: '17px', borderRadius: '4px' }, icon: { size: '11px' } },
    select: { root: { paddingX: '7px', paddingY: '3px' }, dropdown: { width: '26px' } },
    togglebutton: { root: { padding: '1px', borderRadius: '5px', fontWeight: '400', sm: { fontSize: '12px', padding: '0' } }, content: { padding: '1px 6px', borderRadius: '4px', sm: { padding: '1px 6px' } },
      colorScheme: Object.fromEntries(
        (['light', 'dark'] as const).map((tone) => [tone, { root: { background: tone === 'light' ? '#E6EAE8' : '#2B353C', checkedBackground: tone === 'light' ? '#E6EAE8' : '#2B353C', borderColor: 'transparent', color: muted[tone], hoverColor: ink[tone], checkedColor: ink[tone] }, content: { checkedBackground: panel[tone] } }]),
      ),
    },
    message: {
      content: { padding: '12px 14px', gap: '10px' },
      colorScheme: Object.fromEntries(
        (['light', 'dark'] as const).map((tone) => [
          tone,
          {
            error: { background: panel[tone], borderColor: madder[tone], color: madder[tone], shadow: 'none' },
            secondary: { background: panel[tone], borderColor: line[tone], color: muted[tone], shadow: 'none' },
          },
        ]),
      ),
    },
    tree: { root: { padding: '2px', gap: '0' }, node: { padding: '2px 6px', borderRadius: '4px' }, nodeToggleButton: { size: '22px' } },
    splitter: { gutter: { background: '{content.border.color}' } },
    dialog: { header: { padding: '14px 16px 8px' }, content: { padding: '0 16px 16px' }, title: { fontSize: '16px', fontWeight: '700' } },
  },
});
