import { definePreset } from '@primeuix/themes';
import base from '@primeuix/themes/aura/base';
import autocomplete from '@primeuix/themes/aura/autocomplete';
import button from '@primeuix/themes/aura/button';
import checkbox from '@primeuix/themes/aura/checkbox';
import datatable from '@primeuix/themes/aura/datatable';
import datepicker from '@primeuix/themes/aura/datepicker';
import drawer from '@primeuix/themes/aura/drawer';
import fileupload from '@primeuix/themes/aura/fileupload';
import image from '@primeuix/themes/aura/image';
import inputtext from '@primeuix/themes/aura/inputtext';
import message from '@primeuix/themes/aura/message';
import paginator from '@primeuix/themes/aura/paginator';
import popover from '@primeuix/themes/aura/popover';
import progressbar from '@primeuix/themes/aura/progressbar';
import radiobutton from '@primeuix/themes/aura/radiobutton';
import select from '@primeuix/themes/aura/select';
import selectbutton from '@primeuix/themes/aura/selectbutton';
import slider from '@primeuix/themes/aura/slider';
import textarea from '@primeuix/themes/aura/textarea';
import toast from '@primeuix/themes/aura/toast';
import togglebutton from '@primeuix/themes/aura/togglebutton';
import type { Preset } from '@primeuix/themes/types';

const plain = (background: string, border: string, color: string): object => ({
  background,
  hoverBackground: background,
  activeBackground: background,
  borderColor: border,
  hoverBorderColor: border,
  activeBorderColor: border,
  color,
  hoverColor: color,
  activeColor: color,
  focusRing: { color: 'var(--deep)', shadow: 'none' },
});
const tinted = (color: string): object => ({
  hoverBackground: 'var(--deep-wash)',
  activeBackground: 'var(--deep-wash)',
  borderColor: color,
  color,
});
const told = (background: string, color: string): object => ({
  background,
  borderColor: color,
  color: 'var(--ink)',
  shadow: 'none',
  closeButton: { hoverBackground: background, focusRing: { color: 'var(--deep)', shadow: 'none' } },
});

/** Every colour of a component is one of ours: the three themes switch by our own properties alone. */
const scheme = {
  primary: { color: 'var(--deep)', contrastColor: 'var(--on-deep)', hoverColor: 'var(--deep)', activeColor: 'var(--deep)' },
  highlight: { background: 'var(--deep-wash)', focusBackground: 'var(--deep-wash)', color: 'var(--ink)', focusColor: 'var(--ink)' },
  surface: Object.fromEntries(
    ['0', '50', '100', '200', '300', '400', '500', '600', '700', '800', '900', '950'].map((tone) => [tone, 'var(--well)']),
  ),
  formField: {
    background: 'var(--well)',
    disabledBackground: 'var(--sheet)',
    filledBackground: 'var(--well)',
    borderColor: 'var(--rule)',
    hoverBorderColor: 'var(--ink)',
    focusBorderColor: 'var(--deep)',
    invalidBorderColor: 'var(--out)',
    color: 'var(--ink)',
    disabledColor: 'var(--soft)',
    placeholderColor: 'var(--soft)',
    invalidPlaceholderColor: 'var(--soft)',
    iconColor: 'var(--soft)',
    shadow: 'none',
  },
  text: { color: 'var(--ink)', hoverColor: 'var(--ink)', mutedColor: 'var(--soft)', hoverMutedColor: 'var(--ink)' },
  content: {
    background: 'var(--well)',
    hoverBackground: 'var(--deep-wash)',
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
      focusBackground: 'var(--deep-wash)',
      selectedBackground: 'var(--deep)',
      selectedFocusBackground: 'var(--deep)',
      color: 'var(--ink)',
      focusColor: 'var(--ink)',
      selectedColor: 'var(--on-deep)',
      selectedFocusColor: 'var(--on-deep)',
    },
  },
};

const square = { none: '0', xs: '0', sm: '0', md: '0', lg: '0', xl: '0' };

const dressed = {
  // Clay is the one thing that needs you; what else can be pressed is ruled.
  button: {
    root: { borderRadius: '0', paddingX: '18px', paddingY: '9px', label: { fontWeight: 'inherit' } },
    colorScheme: {
      light: {
        root: {
          primary: plain('var(--now)', 'var(--now)', 'var(--on-now)'),
          secondary: plain('var(--well)', 'var(--rule)', 'var(--ink)'),
          contrast: plain('var(--deep)', 'var(--deep)', 'var(--on-deep)'),
        },
        text: { primary: tinted('var(--ink)'), secondary: tinted('var(--soft)') },
        outlined: {
          warn: { hoverBackground: 'var(--now-wash)', activeBackground: 'var(--now-wash)', borderColor: 'var(--now)', color: 'var(--now)' },
        },
      },
    },
  },
  togglebutton: {
    root: { borderRadius: '0', padding: '0', fontWeight: '400' },
    content: { padding: '9px 14px', borderRadius: '0', checkedShadow: 'none' },
    colorScheme: {
      light: {
        root: {
          background: 'var(--well)',
          checkedBackground: 'var(--deep)',
          hoverBackground: 'var(--well)',
          borderColor: 'var(--rule)',
          color: 'var(--ink)',
          hoverColor: 'var(--ink)',
          checkedColor: 'var(--on-deep)',
          checkedBorderColor: 'var(--deep)',
        },
        content: { checkedBackground: 'var(--deep)' },
      },
    },
  },
  message: {
    root: { borderRadius: '0', borderWidth: '0 0 0 5px' },
    colorScheme: {
      light: {
        info: told('var(--deep-wash)', 'var(--deep)'),
        warn: told('var(--now-wash)', 'var(--now)'),
        error: told('var(--out-wash)', 'var(--out)'),
        secondary: told('var(--void-wash)', 'var(--void)'),
        success: told('var(--zone-soft)', 'var(--within)'),
      },
    },
  },
  toast: {
    root: { borderRadius: '0', borderWidth: '0 0 0 6px' },
    colorScheme: {
      light: {
        info: { ...told('var(--well)', 'var(--deep)'), detailColor: 'var(--ink)' },
        warn: { ...told('var(--now-wash)', 'var(--now)'), detailColor: 'var(--ink)' },
      },
    },
  },
  image: {
    toolbar: { blur: '0', background: 'var(--well)', borderColor: 'var(--rule)', borderRadius: '0' },
    action: { hoverBackground: 'var(--deep-wash)', color: 'var(--ink)', hoverColor: 'var(--ink)', borderRadius: '0' },
  },
  // A bead on its string, as large as a thumb.
  slider: {
    root: { transitionDuration: '0s' },
    track: { background: 'var(--rule)', borderRadius: '0', size: '4px' },
    range: { background: 'var(--deep)' },
    handle: {
      width: '30px',
      height: '30px',
      background: 'var(--deep)',
      hoverBackground: 'var(--deep)',
      content: { width: '16px', height: '16px', shadow: 'none', hoverBackground: 'var(--well)' },
    },
    colorScheme: { light: { handle: { content: { background: 'var(--well)' } } } },
  },
  autocomplete: {
    colorScheme: {
      light: {
        dropdown: {
          background: 'var(--well)',
          hoverBackground: 'var(--deep-wash)',
          activeBackground: 'var(--deep-wash)',
          color: 'var(--soft)',
          hoverColor: 'var(--ink)',
          activeColor: 'var(--ink)',
        },
      },
    },
  },
  progressbar: { root: { borderRadius: '0', background: 'var(--grid)', height: '14px' }, value: { background: 'var(--deep)' } },
};

/** The look of our own: square corners, no shadows, hairlines; only the components that are used. */
export const preset: Preset = definePreset(
  {
    ...base,
    components: {
      autocomplete,
      button,
      checkbox,
      datatable,
      datepicker,
      drawer,
      fileupload,
      image,
      inputtext,
      message,
      paginator,
      popover,
      progressbar,
      radiobutton,
      select,
      selectbutton,
      slider,
      textarea,
      toast,
      togglebutton,
    },
  },
  {
    primitive: { borderRadius: square },
    semantic: {
      transitionDuration: '0s',
      focusRing: { width: '3px', style: 'solid', color: 'var(--deep)', offset: '2px', shadow: 'none' },
      formField: { paddingX: '12px', paddingY: '10px', borderRadius: '0', transitionDuration: '0s' },
      overlay: {
        select: { borderRadius: '0', shadow: 'none' },
        popover: { borderRadius: '0', shadow: 'none' },
        modal: { borderRadius: '0', shadow: 'none' },
      },
      colorScheme: { light: scheme },
    },
    components: dressed,
  },
);
