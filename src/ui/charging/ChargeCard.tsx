/** A charge beside what was to be expected of it. */

import type { CardLine } from '@/core/diagnosis/chargeTable';
import { HeadCells } from '@/ui/primitives/HeadCells';

export function ChargeCard({ lines }: { lines: CardLine[] }) {
  if (lines.length === 0)
    return <p className="text-sm">What to expect cannot be said while the battery’s basics are not known.</p>;
  return (
    <table className="w-full border-collapse text-left text-sm">
      <thead>
        <tr className="text-ink-soft text-xs">
          <HeadCells names={['', 'Expected', 'Seen']} className="py-1 pr-3 font-normal" />
        </tr>
      </thead>
      <tbody>
        {lines.map(({ what, expected, observed, verdict }) => (
          <tr key={what} className="border-rule border-t align-top">
            <th scope="row" className="py-1 pr-3 font-semibold">
              {what}
            </th>
            <td className="text-ink-soft py-1 pr-3">{expected}</td>
            <td className="py-1">
              {observed}
              {verdict && <strong className="block">{verdict}</strong>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
