/** Notes of the settings review: hazard, fault, caution, remark by word, never by colour alone. */

import type { ReviewNote } from '@/core/system/review/review';

const WORD: Record<ReviewNote['weight'], string> = { fault: 'Fault', caution: 'Caution', remark: 'Remark' };

/** @param props.brief without reasons and fixes */
export function NoteList({ notes, brief = false }: { notes: readonly ReviewNote[]; brief?: boolean }) {
  return (
    <ul className="mb-2">
      {notes.map((note, i) => (
        <li key={`${note.rule}-${note.of}-${i}`} className="border-rule flex gap-2 border-t py-1.5 text-sm">
          <span
            className={`w-15 shrink-0 text-xs leading-5 font-semibold ${note.hazard ? 'text-hazard' : note.weight === 'remark' ? 'text-ink-soft' : ''}`}
          >
            {note.hazard ? 'Hazard' : WORD[note.weight]}
          </span>
          <span className="min-w-0">
            {note.text}
            {!brief && (
              <>
                <span className="text-ink-soft block">{note.why}</span>
                <span className="block">{note.fix}</span>
              </>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}
