import type { ComponentProps } from 'react';

/** A hidden field that a file is chosen by; the same file can be chosen again. */
export function FileInput({ chosen, ...rest }: { chosen: (file: File) => void } & ComponentProps<'input'>) {
  return (
    <input
      {...rest}
      type="file"
      className="hidden"
      onChange={(e) => {
        const file = e.target.files?.[0];
        e.target.value = '';
        if (file) chosen(file);
      }}
    />
  );
}
