'use client';
/** Photos of one item of the checklist: taken in, shown small, removed with a way back. */

import { Camera } from 'lucide-react';
import { useId, useState } from 'react';
import { PhotoSmall } from '@/ui/primitives/PhotoSmall';
import { useRemoval } from '@/ui/primitives/useRemoval';
import type { PhotoShown } from '../DescribeWorkspace';
import { buttonClass } from '@/ui/primitives/buttons';

export function usePhotos(jobId: string, start: PhotoShown[]) {
  const [list, setList] = useState(start);
  const [busy, setBusy] = useState<string | null>(null);
  const [problem, setProblem] = useState<{ item: string; text: string } | null>(null);
  const removal = useRemoval();

  async function add(item: string, files: FileList): Promise<void> {
    setBusy(item);
    setProblem(null);
    for (const file of files)
      try {
        const response = await fetch(`/api/jobs/${jobId}/photos?item=${encodeURIComponent(item)}`, {
          method: 'POST',
          headers: {
            'content-type': file.type.startsWith('image/') ? file.type : 'application/octet-stream',
          },
          body: file,
        });
        const answer = (await response.json()) as PhotoShown & { error?: string };
        if (response.ok) setList((now) => [...now, answer]);
        else setProblem({ item, text: `${file.name}: ${answer.error ?? 'it could not be stored.'}` });
      } catch {
        setProblem({ item, text: `${file.name}: the server could not be reached. Take it in again.` });
      }
    setBusy(null);
  }

  async function remove(photo: PhotoShown): Promise<void> {
    await removal({
      address: `/api/photos/${photo.id}`,
      what: 'The photo',
      onGone: () => setList((now) => now.filter((one) => one.id !== photo.id)),
      onBack: () => setList((now) => [...now, photo]),
    });
  }

  return { list, busy, problem, add, remove };
}

export function Photos({
  item,
  of,
  photos,
}: {
  item: string;
  of: string;
  photos: ReturnType<typeof usePhotos>;
}) {
  const id = useId();
  const mine = photos.list.filter((one) => one.item === item);
  return (
    <div className="flex flex-wrap items-center gap-2">
      {mine.map((photo, i) => (
        <PhotoSmall
          key={photo.id}
          src={`/api/photos/${photo.id}`}
          href={`/api/photos/${photo.id}`}
          name={`Photo ${i + 1}: ${of}`}
          onRemove={() => void photos.remove(photo)}
        />
      ))}
      <label
        htmlFor={id}
        className={`${buttonClass} flex cursor-pointer items-center gap-1 focus-within:outline-2`}
      >
        <Camera className="size-3.5" aria-hidden />
        {photos.busy === item ? 'Storing …' : 'Photo'}
        <span className="sr-only"> of: {of}</span>
        <input
          id={id}
          type="file"
          accept="image/jpeg,image/png,image/webp"
          multiple
          className="sr-only"
          onChange={({ target }) => {
            if (target.files?.length) void photos.add(item, target.files).then(() => (target.value = ''));
          }}
        />
      </label>
      {photos.problem?.item === item && (
        <p role="alert" className="text-hazard text-sm">
          {photos.problem.text}
        </p>
      )}
    </div>
  );
}
