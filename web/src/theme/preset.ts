import { definePreset } from '@primeuix/themes'
import base from '@primeuix/themes/nora/base'
import button from '@primeuix/themes/nora/button'
import dialog from '@primeuix/themes/nora/dialog'
import inputtext from '@primeuix/themes/nora/inputtext'
import menu from '@primeuix/themes/nora/menu'
import ripple from '@primeuix/themes/nora/ripple'
import select from '@primeuix/themes/nora/select'
import slider from '@primeuix/themes/nora/slider'
import virtualscroller from '@primeuix/themes/nora/virtualscroller'

/** The controls that are used; all others would be loaded with every page. */
const components = {
  button,
  dialog,
  inputtext,
  menu,
  ripple,
  select,
  slider,
  virtualscroller,
}

const ink = {
  50: '#F5F1E8',
  100: '#EAE4D6',
  200: '#D5CDBE',
  300: '#B9B1A3',
  400: '#9A968C',
  500: '#5E6168',
  600: '#4A4E55',
  700: '#33373D',
  800: '#2A2E34',
  900: '#20242A',
  950: '#16181B',
}
const scheme = {
  surface: { 0: 'var(--sheet)', ...ink },
  primary: {
    color: 'var(--ink)',
    contrastColor: 'var(--sheet)',
    hoverColor: 'var(--ink-strong)',
    activeColor: 'var(--ink-strong)',
  },
  highlight: {
    background: 'var(--ink)',
    focusBackground: 'var(--ink)',
    color: 'var(--sheet)',
    focusColor: 'var(--sheet)',
  },
  text: {
    color: 'var(--ink)',
    hoverColor: 'var(--ink)',
    mutedColor: 'var(--quiet)',
    hoverMutedColor: 'var(--quiet)',
  },
  content: {
    background: 'var(--sheet)',
    hoverBackground: 'var(--paper)',
    borderColor: 'var(--rule)',
    color: 'var(--ink)',
    hoverColor: 'var(--ink)',
  },
  overlay: {
    select: { background: 'var(--sheet)', borderColor: 'var(--ink)', color: 'var(--ink)' },
    popover: { background: 'var(--sheet)', borderColor: 'var(--ink)', color: 'var(--ink)' },
    modal: { background: 'var(--sheet)', borderColor: 'var(--ink)', color: 'var(--ink)' },
  },
  formField: {
    background: 'var(--sheet)',
    borderColor: 'var(--rule)',
    hoverBorderColor: 'var(--ink)',
    focusBorderColor: 'var(--ink)',
    color: 'var(--ink)',
    placeholderColor: 'var(--quiet)',
    iconColor: 'var(--quiet)',
  },
  list: {
    option: {
      focusBackground: 'var(--paper)',
      color: 'var(--ink)',
      focusColor: 'var(--ink)',
      selectedBackground: 'var(--ink)',
      selectedColor: 'var(--sheet)',
      selectedFocusBackground: 'var(--ink)',
      selectedFocusColor: 'var(--sheet)',
    },
  },
}

/** Iron Hush's own look on PrimeVue: ink on paper, square corners, one-pixel rules, no shadows. */
export const foundry = definePreset(
  { ...base, components },
  {
    primitive: { borderRadius: { none: '0', xs: '2px', sm: '2px', md: '2px', lg: '2px', xl: '2px' } },
    semantic: {
      primary: ink,
      transitionDuration: '0.12s',
      disabledOpacity: '0.5',
      focusRing: { width: '2px', style: 'solid', color: 'var(--brass)', offset: '1px', shadow: 'none' },
      formField: { paddingX: '0.55rem', paddingY: '0.3rem', borderRadius: '2px', shadow: 'none' },
      overlay: {
        select: { borderRadius: '2px', shadow: 'none' },
        popover: { borderRadius: '2px', shadow: 'none' },
        modal: { borderRadius: '2px', padding: '1.1rem', shadow: 'none' },
      },
      colorScheme: { light: scheme, dark: scheme },
    },
    components: {
      button: {
        root: { paddingX: '0.75rem', paddingY: '0.32rem', borderRadius: '2px', label: { fontWeight: '600' } },
      },
      dialog: {
        root: { background: 'var(--sheet)', borderColor: 'var(--ink)', color: 'var(--ink)' },
        // room above for the focus ring of what comes first
        content: {
          padding: '4px {overlay.modal.padding} {overlay.modal.padding} {overlay.modal.padding}',
        },
      },
    },
  },
)
