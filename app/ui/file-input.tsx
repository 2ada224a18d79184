import type { Ref } from 'react';

interface Props {
  /** For whoever opens the browser's own chooser by a press. */
  readonly ref: Ref<HTMLInputElement>;
  readonly label: string;
  /** What may be chosen, as browsers take it: kinds and endings. */
  readonly accept: string;
  readonly multiple?: boolean;
  readonly onFiles: (files: readonly File[]) => void;
}

/** Files are chosen through it; it isn't seen. The same one can be chosen again. */
export const FileInput = ({ ref, label, accept, multiple, onFiles }: Props) => (
  <input
    ref={ref}
    type="file"
    multiple={multiple ?? false}
    accept={accept}
    aria-label={label}
    style={{ display: 'none' }}
    onChange={(event) => {
      const files = [...(event.currentTarget.files ?? [])];
      event.currentTarget.value = '';
      if (files.length > 0) onFiles(files);
    }}
  />
);
