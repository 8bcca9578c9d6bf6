// Two themes with the same roles: "spruce" by day, "rosewood" for the stage. Components take roles, never hex values.
const shared = { 'border-opacity': 1, 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 0.82 }

export const lightTheme = {
  dark: false,
  colors: {
    background: '#F4EEE2', surface: '#FFFCF5', 'on-background': '#2A211B', 'on-surface': '#2A211B', primary: '#1E5B4F', 'on-primary': '#FFFCF5',
    secondary: '#6B5F55', error: '#8E3B2E', 'on-error': '#FFFCF5', warning: '#80560C', 'on-warning': '#FFFCF5', success: '#1E5B4F', 'on-success': '#FFFCF5', info: '#6B5F55', 'on-info': '#FFFCF5',
    rule: '#D9CDB8', selection: '#DDE7D3', 'on-selection': '#2A211B', evidence: '#80560C', outline: '#C9B99C', 'outline-deep': '#8C7B65', wood: '#E9DFCB', quiet: '#665A50',
  },
  variables: { ...shared, 'border-color': '#D9CDB8' },
}

export const darkTheme = {
  dark: true,
  colors: {
    background: '#1D1613', surface: '#281F1A', 'on-background': '#F1E7D8', 'on-surface': '#F1E7D8', primary: '#7FC3AE', 'on-primary': '#10211C',
    secondary: '#B9A994', error: '#EE9C8B', 'on-error': '#2B0E08', warning: '#E3B25C', 'on-warning': '#2A1D05', success: '#7FC3AE', 'on-success': '#10211C', info: '#B9A994', 'on-info': '#1D1613',
    rule: '#4A3C32', selection: '#34452F', 'on-selection': '#F1E7D8', evidence: '#E3B25C', outline: '#5C4B3D', 'outline-deep': '#A08B73', wood: '#382A21', quiet: '#BDAE9C',
  },
  variables: { ...shared, 'border-color': '#4A3C32' },
}
