'use client';
/** The bar over every page: the name, and the switch between day and night. */

import { Moon, Sun } from 'lucide-react';
import { useTheme } from 'next-themes';
import Link from 'next/link';

export function TopBar() {
  const { resolvedTheme, setTheme } = useTheme();
  return (
    <header className="no-print border-rule-strong bg-sheet flex h-10 shrink-0 items-center justify-between border-b px-4">
      <Link href="/" className="text-accent text-lg font-semibold tracking-tight">
        Pazienza
      </Link>
      <nav aria-label="Main" className="ml-6 flex flex-1 gap-4 text-sm">
        <Link href="/" className="hover:text-accent">
          Jobs
        </Link>
        <Link href="/systems" className="hover:text-accent">
          Systems
        </Link>
        <Link href="/plan" className="hover:text-accent">
          Plan
        </Link>
        <Link href="/calculators" className="hover:text-accent">
          Calculators
        </Link>
      </nav>
      <button
        type="button"
        className="text-ink-soft hover:text-ink rounded p-1.5"
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
