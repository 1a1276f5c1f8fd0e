/** A photo shown small, with a way to take it off. */

import { small } from '@/core/quantity/text';

interface Props {
  src: string;
  /** What it shows, "Photo 1: Joints". */
  name: string;
  /** Opened large in a tab of its own, where it is on the server. */
  href?: string;
  onRemove(): void;
}

export function PhotoSmall({ src, name, href, onRemove }: Props) {
  // eslint-disable-next-line @next/next/no-img-element -- it comes small from our own database, or waits in this browser
  const picture = <img src={src} alt={name} className="border-rule-strong h-14 w-auto border" />;
  return (
    <figure className="flex items-start">
      {href ? (
        <a href={href} target="_blank" rel="noreferrer">
          {picture}
        </a>
      ) : (
        picture
      )}
      <button
        type="button"
        aria-label={`Remove ${small(name)}`}
        className="border-rule-strong size-9 border border-l-0 leading-none"
        onClick={onRemove}
      >
        ×
      </button>
    </figure>
  );
}
