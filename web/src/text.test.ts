import ts from "typescript";
import { expect, it } from "vitest";

const pages = import.meta.glob<string>("./**/*.tsx", { query: "?raw", import: "default", eager: true });

// What is read aloud or shown: words in a page's markup and in these attributes.
const shown = new Set(["aria-label", "placeholder", "title", "alt", "label"]);
// Signs and units that are the same in every language, and our own name.
const signs = /^(mm|cm|g|ml|l|kg|s|min|h|°?C|v|Jointime)$/;
const words = (s: string) => s.match(/\p{L}+/gu)?.filter((w) => !signs.test(w)) ?? [];

// strays are the words of a page that do not come from text.ts.
function strays(file: string, source: string): string[] {
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const out: string[] = [];
  const look = (n: ts.Node) => {
    const found = ts.isJsxText(n)
      ? words(n.text)
      : ts.isJsxAttribute(n) &&
          shown.has(n.name.getText()) &&
          n.initializer &&
          ts.isStringLiteral(n.initializer)
        ? words(n.initializer.text)
        : ts.isTemplateExpression(n) && ts.isJsxExpression(n.parent) && !ts.isJsxAttribute(n.parent.parent)
          ? words([n.head.text, ...n.templateSpans.map((s) => s.literal.text)].join(" "))
          : ts.isStringLiteral(n) && ts.isJsxExpression(n.parent) && !ts.isJsxAttribute(n.parent.parent)
            ? words(n.text)
            : [];
    if (found.length > 0)
      out.push(`${file}:${tree.getLineAndCharacterOfPosition(n.getStart()).line + 1} ${found.join(" ")}`);
    ts.forEachChild(n, look);
  };
  look(tree);
  return out;
}

it("every word that a page shows comes from text.ts", () => {
  const all = Object.entries(pages);
  expect(all.length).toBeGreaterThan(50);
  expect(all.flatMap(([file, source]) => strays(file, source))).toEqual([]);
});

it("finds words that escaped", () => {
  expect(strays("a.tsx", 'const a = <b title="Hello">{x} of {`${y} left`} 5 mm</b>;')).toHaveLength(3);
  expect(strays("a.tsx", "const a = <b className={`x ${y}`}>{text.of} · 5 mm</b>;")).toEqual([]);
});
