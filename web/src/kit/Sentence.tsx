const VALUE = /(\d[\d.]* (?:[mk]?A|[mk]?V|m?W|m?J|[kM]?ohm|m?s|[cm]?m|mm2|uF|mH|K|Hz|%)(?![A-Za-z0-9]))/;

/** A sentence in which no line ends between a number and its unit. */
export function Sentence({ text }: { text: string }) {
  // every second part is a number with its unit
  const parts = text.split(VALUE).map((words, place) => ({ words, place, isValue: place % 2 === 1 }));
  return parts.map(({ words, place, isValue }) =>
    isValue ? (
      <span key={place} className="whitespace-nowrap">
        {words}
      </span>
    ) : (
      words
    ),
  );
}
