import { useEffect } from 'react';
import { isUploading } from './uploads-store';

/** The browser asks before this page is closed while files are on their way: that would break them off. */
export function useUploadWarning(): void {
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent): void => {
      if (isUploading()) event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, []);
}
