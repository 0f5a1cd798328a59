import type { Preset } from '@primeuix/themes/types';
import base from '@primeuix/themes/aura/base';
import paginator from '@primeuix/themes/aura/paginator';
import select from '@primeuix/themes/aura/select';
import datatable from '@primeuix/themes/aura/datatable';
import { definePreset } from '@primeuix/themes';

/** Every colour of a component is one of ours: the three themes switch by our own properties alone. */
const scheme = {
  primary: { color: 'var(--deep)', contrastColor: 'var(--on-deep)', hoverColor: 'var(--deep)', activeColor: 'var(--deep)' },
  highlight: { background: 'var(--within-zone)', focusBackground: 'var(--within-zone)', color: 'var(--ink)', focusColor: 'var(--ink)' },
  surface: Object.fromEntries(
    ['0', '50', '100', '200', '300', '400', '500', '600', '700', '800', '900', '950'].map((tone) => [tone, 'var(--well)']),
  ),
  formField: {
    background: 'var(--well)',
    borderColor: 'var(--rule)',
    hoverBorderColor: 'var(--ink)',
    focusBorderColor: 'var(--now)',
    color: 'var(--ink)',
    placeholderColor: 'var(--soft)',
    iconColor: 'var(--soft)',
    shadow: 'none',
  },
  text: { color: 'var(--ink)', hoverColor: 'var(--ink)', mutedColor: 'var(--soft)', hoverMutedColor: 'var(--ink)' },
  content: {
    background: 'var(--well)',
    hoverBackground: 'var(--sheet)',
    borderColor: 'var(--hair)',
    color: 'var(--ink)',
    hoverColor: 'var(--ink)',
  },
  overlay: {
    select: { background: 'var(--well)', borderColor: 'var(--rule)', color: 'var(--ink)' },
    popover: { background: 'var(--well)', borderColor: 'var(--rule)', color: 'var(--ink)' },
    modal: { background: 'var(--well)', borderColor: 'var(--rule)', color: 'var(--ink)' },
  },
  list: {
    option: {
      focusBackground: 'var(--sheet)',
      selectedBackground: 'var(--within-zone)',
      selectedFocusBackground: 'var(--within-zone)',
      color: 'var(--ink)',
      focusColor: 'var(--ink)',
      selectedColor: 'var(--ink)',
      selectedFocusColor: 'var(--ink)',
    },
  },
};

const square = { none: '0', xs: '0', sm: '0', md: '0', lg: '0', xl: '0' };

/** The look of our own: square corners, no shadows, hairlines; only the components that are used. */
export const preset: Preset = definePreset(
  { ...base, components: { paginator, select, datatable } },
  {
    primitive: { borderRadius: square },
    semantic: {
      transitionDuration: '0s',
      focusRing: { width: '3px', style: 'solid', color: 'var(--now)', offset: '2px', shadow: 'none' },
      formField: { paddingX: '12px', paddingY: '10px', borderRadius: '0', transitionDuration: '0s' },
      overlay: {
        select: { borderRadius: '0', shadow: 'none' },
        popover: { borderRadius: '0', shadow: 'none' },
        modal: { borderRadius: '0', shadow: 'none' },
      },
      colorScheme: { light: scheme },
    },
  },
);
