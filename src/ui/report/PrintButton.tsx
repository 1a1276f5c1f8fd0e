'use client';

export function PrintButton() {
  return (
    <button type="button" className="border-rule-strong border px-3 py-1.5" onClick={() => window.print()}>
      Print
    </button>
  );
}
