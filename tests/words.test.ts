import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";
import { INSTEAD } from "./plainWords";

/** Every sentence in the code that somebody can be shown, whatever state it belongs to. */
const root = join(__dirname, "..");
const files = execFileSync(
  "git",
  ["ls-files", "ui", "app", "core", "server", "contract", "bin", "standins", "verify"],
  {
    cwd: root,
    encoding: "utf8",
  },
)
  .split("\n")
  .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$|platform\/db/.test(file));

/** What nobody reads: names of classes, and statements for the database. */
const NOT_READ = /^(className|style|d|href|viewBox|key|id|htmlFor)$/;
const SQL = /\b(select|insert into|update|delete from|create (table|index|unique)|primary key|json_|where)\b/;

function sentencesIn(file: string): { line: number; text: string }[] {
  const source = ts.createSourceFile(file, readFileSync(join(root, file), "utf8"), ts.ScriptTarget.Latest, true);
  const found: { line: number; text: string }[] = [];
  const take = (node: ts.Node, text: string) => {
    const plain = text.replaceAll(/\s+/g, " ").trim();
    const isRead = /[a-z]/i.test(plain) && (plain.includes(" ") || /^[A-Z]/.test(plain)) && !SQL.test(plain);
    if (isRead) found.push({ line: source.getLineAndCharacterOfPosition(node.getStart()).line + 1, text: plain });
  };
  const walk = (node: ts.Node) => {
    if (ts.isImportDeclaration(node) || ts.isRegularExpressionLiteral(node)) return;
    if (ts.isJsxAttribute(node) && NOT_READ.test(node.name.getText())) return;
    if (ts.isJsxText(node) || ts.isStringLiteralLike(node)) take(node, node.text);
    if (ts.isTemplateExpression(node))
      take(node, [node.head.text, ...node.templateSpans.map(({ literal }) => literal.text)].join(" … "));
    ts.forEachChild(node, walk);
  };
  walk(source);
  return found;
}

const sentences = files.flatMap((file) => sentencesIn(file).map(({ line, text }) => ({ at: `${file}:${line}`, text })));

test("no sentence in the code says what is said better", () => {
  expect(sentences.length).toBeGreaterThan(3_000);
  const wrong = sentences.flatMap(({ at, text }) =>
    INSTEAD.filter(([not]) => not.test(text)).map(([, instead]) => `${at}: ${text} → ${instead}`),
  );
  expect(wrong).toEqual([]);
});
