import { memo, useEffect, useLayoutEffect, useRef, useState } from "react";

const BETWEEN_MS = 16; // what was drawn is seen before the next page is

/** Sheet music page by page: the first at once, the others one after the other when it is seen. */
export function Score({ pages }: { pages: readonly string[] }) {
  const [shown, setShown] = useState(1);
  useEffect(() => {
    if (shown >= pages.length) return;
    const next = setTimeout(() => setShown(shown + 1), BETWEEN_MS);
    return () => clearTimeout(next);
  }, [shown, pages.length]);
  return pages.slice(0, shown).map((svg, i) => <ScorePage key={i} svg={svg} number={i + 1} />);
}

const ScorePage = memo(function ScorePage({ svg, number }: { svg: string; number: number }) {
  const paper = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    // Parsed as a picture, so that nothing in it can run.
    const drawing = new DOMParser().parseFromString(svg, "image/svg+xml").documentElement;
    paper.current?.replaceChildren(document.importNode(drawing, true));
  }, [svg]);
  return <div ref={paper} className="paper" role="img" aria-label={`Sheet music, page ${number}`} />;
});
