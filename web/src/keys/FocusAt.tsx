import { useEffect, type RefObject } from 'react';

/**
 * Gives the focus to a field of a dialog as soon as the dialog is there, before its own trap gives it to the button that
 * closes it: whoever types on types into the field. It stands in the dialog, behind the field.
 */
export function FocusAt({ field }: { field: RefObject<{ focus: () => void } | null> }) {
  useEffect(() => {
    field.current?.focus();
  }, [field]);
  return null;
}
