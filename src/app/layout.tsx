import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import './globals.css';
import type { Metadata } from 'next';
import { headers } from 'next/headers';
import { ThemeProvider } from 'next-themes';
import type { ReactNode } from 'react';
import { Queries } from '@/ui/primitives/Queries';
import { Toasts } from '@/ui/primitives/Toasts';
import { TopBar } from '@/ui/primitives/TopBar';

export const metadata: Metadata = {
  title: 'Pazienza',
  description: 'Diagnosis of battery systems from their logs',
};

export default async function Layout({ children }: { children: ReactNode }) {
  // Every page is made on request: its scripts carry the nonce of its answer.
  const nonce = (await headers()).get('x-nonce') ?? '';
  return (
    <html lang="en" suppressHydrationWarning>
      <body className="flex min-h-dvh flex-col">
        <ThemeProvider
          attribute="class"
          defaultTheme="system"
          enableSystem
          disableTransitionOnChange
          nonce={nonce}
        >
          <TopBar />
          <Queries>
            <Toasts>{children}</Toasts>
          </Queries>
        </ThemeProvider>
      </body>
    </html>
  );
}
