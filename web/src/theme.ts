import { theme, type ThemeConfig } from 'antd';
import { useSyncExternalStore } from 'react';

function useMedia(query: string): boolean {
  return useSyncExternalStore(
    (changed) => {
      const media = window.matchMedia(query);
      media.addEventListener('change', changed);
      return () => media.removeEventListener('change', changed);
    },
    () => window.matchMedia(query).matches,
  );
}

const light = {
  colorPrimary: '#0E5A63',
  colorBgBase: '#FCFBF8',
  colorTextBase: '#22262A',
  colorBorder: '#B5AE9F',
  colorBorderSecondary: '#E9E4D9',
};
const dark = {
  colorPrimary: '#5FB0B8',
  colorBgBase: '#222628',
  colorTextBase: '#ECE8DF',
  colorBorder: '#5C6367',
  colorBorderSecondary: '#33383B',
};

/** The component library in Draxel's tokens: petrol, radius 3, no shadows but under overlays, compact. */
export function useTheme(): ThemeConfig {
  const isDark = useMedia('(prefers-color-scheme: dark)');
  const still = useMedia('(prefers-reduced-motion: reduce)');
  const tokens = isDark ? dark : light;
  return {
    algorithm: isDark ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      ...tokens,
      colorInfo: tokens.colorPrimary,
      colorSuccess: tokens.colorPrimary,
      colorWarning: tokens.colorTextBase, // orange and yellow mean a hazard here, red a wire
      colorError: tokens.colorTextBase,
      colorLink: tokens.colorPrimary,
      colorTextPlaceholder: isDark ? '#A9AEB1' : '#5A5F63',
      borderRadius: 3,
      fontSize: 14,
      controlHeight: 32,
      fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif",
      fontFamilyCode: "'Atkinson Hyperlegible Mono Variable', monospace",
      motion: !still,
      boxShadowTertiary: 'none',
    },
    components: {
      Button: { primaryShadow: 'none', defaultShadow: 'none', primaryColor: isDark ? '#14282B' : '#FCFBF8' },
    },
  };
}
