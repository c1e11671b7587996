import { useEffect } from 'react';
import { notice } from './notice';

/** Says so where a link asks for something that is not there, or not any more: what is shown instead is another. */
export function useAsked(what: string, asked: string | null, there: boolean) {
  const missing = asked !== null && asked !== '' && !there ? asked : undefined;
  useEffect(() => {
    if (missing) {
      notice.warning(`There is no ${what} “${missing}” here, or not any more.`, 8);
    }
  }, [what, missing]);
}
