export type Theme = 'paper' | 'kitchen';

const KEY = 'yantai-theme';

export const readTheme = (): Theme => (localStorage.getItem(KEY) === 'kitchen' ? 'kitchen' : 'paper');

export function applyTheme(theme: Theme) {
  document.documentElement.dataset.theme = theme;
  localStorage.setItem(KEY, theme);
}
