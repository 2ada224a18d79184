import { useEffect, useEffectEvent, useState } from 'react';
import { isTyping } from '../../ui/is-typing';

const filesIn = (data: DataTransfer | null): File[] => [...(data?.files ?? [])];

/**
 * Takes files that are dropped on the page, or pasted. Without it a browser would leave the page for a dropped file.
 *
 * @returns whether some are being held over the page
 */
export const useDroppedFiles = (onFiles: (files: File[]) => void): boolean => {
  const [over, setOver] = useState(false);
  const take = useEffectEvent((files: File[]) => {
    if (files.length > 0) onFiles(files);
  });
  useEffect(() => {
    const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;
    const dragOver = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      setOver(true);
    };
    const leave = (event: DragEvent) => {
      if (event.relatedTarget === null) setOver(false);
    };
    const drop = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      setOver(false);
      take(filesIn(event.dataTransfer));
    };
    const paste = (event: ClipboardEvent) => {
      if (!isTyping(event.target)) take(filesIn(event.clipboardData));
    };
    window.addEventListener('dragover', dragOver);
    window.addEventListener('dragleave', leave);
    window.addEventListener('drop', drop);
    window.addEventListener('paste', paste);
    return () => {
      window.removeEventListener('dragover', dragOver);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('drop', drop);
      window.removeEventListener('paste', paste);
    };
  }, []);
  return over;
};
