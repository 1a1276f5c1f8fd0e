'use client';
/** The bar over every page: the name, and the switch between day and night. */

import { Moon, Sun } from 'lucide-react';
import { useTheme } from 'next-themes';
import Link from 'next/link';

export function TopBar() {
  const { resolvedTheme, setTheme } = useTheme();
  return (
    <header className="no-print flex h-10 shrink-0 items-center justify-between border-b border-rule-strong bg-sheet px-4">
      <Link href="/" className="text-lg font-semibold tracking-tight text-accent">
        Pazienza
      </Link>
      <button
        type="button"
        className="rounded p-1.5 text-ink-soft hover:text-ink"
        aria-label="Switch between light and dark"
        title="Light or dark"
        onClick={() => setTheme(resolvedTheme === 'dark' ? 'light' : 'dark')}
      >
        <Sun className="hidden size-4 dark:block" aria-hidden />
        <Moon className="size-4 dark:hidden" aria-hidden />
      </button>
    </header>
  );
}
