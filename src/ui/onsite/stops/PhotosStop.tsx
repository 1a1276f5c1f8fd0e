'use client';
/** Photos before anything is touched, and after a change, each of one thing. */

import { Camera } from 'lucide-react';
import { useEffect, useId, useState } from 'react';
import { type Moment, MOMENTS, photoItem, photoThings } from '@/core/onsite/photoItem';
import { PhotoSmall } from '@/ui/primitives/PhotoSmall';
import { buttonClass } from '@/ui/primitives/buttons';
import { Words } from '../fields';
import type { PhotoQueue } from '../usePhotoQueue';
import { useRound } from '../useRound';

export function PhotosStop({ photos }: { photos: PhotoQueue }) {
  const { system } = useRound();
  return (
    <>
      <p className="text-ink-soft mb-2 text-sm">
        Before anything is touched, and again after a change. Photos wait in this browser while the network is
        away.
      </p>
      <ul>
        {photoThings(system).map(({ id, name }) => (
          <li key={id} className="border-rule border-b py-2 text-sm">
            <p className="font-semibold">{name}</p>
            <div className="flex flex-wrap gap-x-6 gap-y-2">
              {MOMENTS.map((moment) => (
                <OfMoment key={moment} photos={photos} thing={id} name={name} moment={moment} />
              ))}
            </div>
          </li>
        ))}
      </ul>
      <div className="mt-3">
        <Words path="screens" label="Firmware, default access codes, and what the screens said" lines={3} />
      </div>
    </>
  );
}

function OfMoment({
  photos,
  thing,
  name,
  moment,
}: {
  photos: PhotoQueue;
  thing: string;
  name: string;
  moment: Moment;
}) {
  const id = useId();
  const item = photoItem(thing, moment);
  const of = `${name}, ${moment}`;
  return (
    <div className="flex flex-wrap items-center gap-2">
      <label
        htmlFor={id}
        className={`${buttonClass} flex min-h-11 cursor-pointer items-center gap-2 focus-within:outline-2`}
      >
        <Camera className="size-4" aria-hidden />
        {moment === 'before' ? 'Before' : 'After'}
        <span className="sr-only">: photo of {name}</span>
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
      {photos.kept
        .filter((one) => one.item === item)
        .map((one, k) => (
          <PhotoSmall
            key={one.id}
            src={`/api/photos/${one.id}`}
            href={`/api/photos/${one.id}`}
            name={`Photo ${k + 1}: ${of}`}
            onRemove={() => void photos.remove(one)}
          />
        ))}
      {photos.waiting
        .filter((one) => one.item === item)
        .map((one) => (
          <span key={one.id} className="flex items-center gap-1">
            <Waiting file={one.file} of={of} onRemove={() => void photos.drop(one.id)} />
            <span className="text-ink-soft text-xs" role={one.refused ? 'alert' : undefined}>
              {one.refused ? `Not taken: ${one.refused}` : 'waits to be sent'}
            </span>
          </span>
        ))}
    </div>
  );
}

function Waiting({ file, of, onRemove }: { file: Blob; of: string; onRemove(): void }) {
  const [src, setSrc] = useState<string | null>(null);
  useEffect(() => {
    const url = URL.createObjectURL(file);
    const task = setTimeout(() => setSrc(url));
    return () => {
      clearTimeout(task);
      URL.revokeObjectURL(url);
    };
  }, [file]);
  return src ? <PhotoSmall src={src} name={`Photo: ${of}`} onRemove={onRemove} /> : null;
}
