import { useLayoutEffect, useState } from 'react';

/** The width that an element has on the page, in pixels; a usual one before it is there.
 * @returns what to give the element as its ref, and the width */
export function useWidth(usualPx: number): [(element: HTMLElement | null) => void, number] {
  const [element, setElement] = useState<HTMLElement | null>(null);
  const [widthPx, setWidthPx] = useState(usualPx);
  useLayoutEffect(() => {
    if (!element) return;
    const observer = new ResizeObserver(([{ contentRect }]) => setWidthPx(Math.max(1, Math.round(contentRect.width))));
    observer.observe(element);
    return () => observer.disconnect();
  }, [element]);
  return [setElement, widthPx];
}
