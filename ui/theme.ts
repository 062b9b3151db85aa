import type { ThemeConfig } from 'antd'

/** Paper for planning and field work, neutral grey where pictures are judged, one accent. */
export const COLOURS = {
  paper: '#f7f6f3',
  sheet: '#ffffff',
  ink: '#1d1d1b',
  quiet: '#5f5e5a',
  rule: '#d9d7d1',
  accent: '#00665c',
  alarm: '#a3200d',
  /** No tint at all: what surrounds a picture must not colour it. */
  table: '#565656',
}

export const theme: ThemeConfig = {
  token: {
    colorPrimary: COLOURS.accent,
    // Progress is drawn in it.
    colorInfo: COLOURS.accent,
    colorError: COLOURS.alarm,
    colorText: COLOURS.ink,
    colorTextSecondary: COLOURS.quiet,
    colorTextPlaceholder: COLOURS.quiet,
    colorBorder: COLOURS.rule,
    colorBgLayout: COLOURS.paper,
    fontFamily: "'Source Sans 3 Variable', sans-serif",
    fontSize: 16,
    borderRadius: 3,
    controlHeight: 36,
  },
}
