import { create } from 'zustand';
import { persist } from 'zustand/middleware';

export type Theme = 'paper' | 'shed';

/** Paper by day, shed by night; the machine's own preference until somebody chooses. */
export const useTheme = create<{ readonly theme: Theme | null }>()(
  persist(() => ({ theme: null as Theme | null }), { name: 'malle.theme' }),
);

export function themeShown(chosen: Theme | null): Theme {
  return chosen ?? (matchMedia('(prefers-color-scheme: dark)').matches ? 'shed' : 'paper');
}

export function chooseTheme(theme: Theme): void {
  useTheme.setState({ theme });
}

/** Keeps the page's theme attribute in step with the choice. */
export function startTheme(): void {
  const show = () => {
    document.documentElement.dataset.theme = themeShown(useTheme.getState().theme);
  };
  show();
  useTheme.subscribe(show);
  matchMedia('(prefers-color-scheme: dark)').addEventListener('change', show);
}
