// Every string that a person may read, against the turns that docs/words.md bans and against identifiers.
import { describe, expect, it } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const root = fileURLToPath(new URL('../../../../', import.meta.url));
const ROOMS = ['packages/web/src', 'packages/server/src', 'packages/core/src', 'packages/contract/src', 'packages/runner/src', 'packages/simulator/src', 'packages/devices/src']; // prettier-ignore

const BANNED: readonly RegExp[] = [
  /\banew\b/i,
  /\b(?:fore)?told\b/i,
  /\b(?:somebody|whoever|nobody)\b/i,
  /\bwhat moves\b/i,
  /\bg(?:ive|ives|iven|iving) back\b/i,
  /\b(?:take|takes|taken) (?:in\b|(?:it|them|back)\b.*\bback\b|back\b)/i,
  /\bso from now on\b/i,
  /\blet \S+(?: \S+)? go\b/i,
  /\bbegin as\b/i,
  /\bdeed\b/i,
  /\boutbid/i,
  /\bheard at\b/i,
  /\bwish(?:es|ed)?\b/i,
  /\bstands?\b/i,
  /\bmeanwhile\b/i,
  /\bworth\b/i,
  /^(?:leave (?:it|them)|not now|keep)$/i,
];
/** Names of quantities as code writes them. */
const IDENTIFIER = /\b[a-z]+(?:[A-Z][a-z]+)*(?:Deg|Sec|UtcMs|Hours|Arcsec|Px|Mm|Mag)\b/;

interface Said {
  readonly where: string;
  readonly words: string;
}

const filesOf = (folder: string): string[] =>
  readdirSync(join(root, folder), { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && /\.tsx?$/.test(entry.name) && !entry.name.endsWith('.test.ts'))
    .map((entry) => join(entry.parentPath, entry.name))
    .filter((path) => !/migrations|models|repository/.test(path));

const isText = (node: ts.Node): node is ts.Node & { text: string } =>
  ts.isJsxText(node) ||
  ts.isStringLiteral(node) ||
  ts.isNoSubstitutionTemplateLiteral(node) ||
  ts.isTemplateHead(node) ||
  ts.isTemplateMiddle(node) ||
  ts.isTemplateTail(node);

/** Strings that are no words: modules, types, classes of style. */
function isNoSpeech({ parent }: ts.Node): boolean {
  if (ts.isImportDeclaration(parent) || ts.isExportDeclaration(parent) || ts.isLiteralTypeNode(parent)) return true;
  return ts.isJsxAttribute(parent) && /^(?:className|d|key|name|type|to|id)$/.test(parent.name.getText());
}

/** Words have a space between them, or begin with a capital. */
const isSpeech = (words: string): boolean => /[a-z]{2}/.test(words) && (/\S\s+\S/.test(words) || /^[A-Z]/.test(words));

function saidIn(path: string): Said[] {
  const kind = path.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS;
  const source = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true, kind);
  const said: Said[] = [];
  const visit = (node: ts.Node): void => {
    if (isText(node) && !isNoSpeech(node)) {
      const words = node.text.replace(/\s+/g, ' ').trim();
      const line = source.getLineAndCharacterOfPosition(node.getStart()).line + 1;
      if (isSpeech(words)) said.push({ where: `${relative(root, path)}:${line}`, words });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return said;
}

const said = ROOMS.flatMap(filesOf).flatMap(saidIn);
const against = (pattern: RegExp): string[] =>
  said.filter(({ words }) => pattern.test(words)).map(({ where, words }) => `${where}: ${words}`);

describe('what people read', () => {
  it('is found at all: pages, messages, summaries', () => {
    expect(said.length).toBeGreaterThan(2000);
    for (const words of ['Create draft', 'Publish new version', 'There is a rig named "'])
      expect(said.map((one) => one.words)).toContain(words);
  });

  it.each(BANNED)('has no %s', (pattern) => expect(against(pattern)).toEqual([]));

  it('has no identifier', () => expect(against(IDENTIFIER).filter((one) => / /.test(one.split(': ')[1]))).toEqual([]));
});
