// npm run mutants: changes numbers and operators in the engineering, one at a time, and counts how many of the changes
// the tests notice. Works on a copy; the tree is not touched. Options: --count 100 --seed 1 --folders units,acoustics
import { spawn } from 'node:child_process'
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { parseArgs } from 'node:util'
import fc from 'fast-check'
import ts from 'typescript'

const { values } = parseArgs({
  options: {
    count: { type: 'string', default: '100' },
    seed: { type: 'string', default: '1' },
    folders: { type: 'string', default: 'units,acoustics,circuit,levels,measure' },
    wanted: { type: 'string', default: '85' },
  },
})
const root = path.resolve(import.meta.dirname, '..')
const folders = values.folders.split(',')
/** Asked when the tests of the folder itself noticed nothing. */
const wider = ['units', 'acoustics', 'circuit', 'radio', 'dynamics', 'levels', 'measure', 'report', 'render']
const tooLong = ['**/truth.test.ts', '**/node_modules/**']

interface Mutation {
  file: string
  line: number
  from: number
  to: number
  before: string
  after: string
}

const swapped: Partial<Record<ts.SyntaxKind, string>> = {
  [ts.SyntaxKind.PlusToken]: '-',
  [ts.SyntaxKind.MinusToken]: '+',
  [ts.SyntaxKind.AsteriskToken]: '/',
  [ts.SyntaxKind.SlashToken]: '*',
  [ts.SyntaxKind.LessThanToken]: '>=',
  [ts.SyntaxKind.GreaterThanToken]: '<=',
  [ts.SyntaxKind.AmpersandAmpersandToken]: '||',
  [ts.SyntaxKind.BarBarToken]: '&&',
}

/** Every change that could be made to a file. */
function mutationsOf(file: string): Mutation[] {
  const text = readFileSync(path.join(root, file), 'utf8')
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true)
  const found: Mutation[] = []
  const add = (node: ts.Node, after: string) =>
    found.push({
      file,
      line: source.getLineAndCharacterOfPosition(node.getStart()).line + 1,
      from: node.getStart(),
      to: node.getEnd(),
      before: node.getText(),
      after,
    })
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node)) return
    if (ts.isNumericLiteral(node)) add(node, changedNumber(Number(node.text)))
    if (ts.isBinaryExpression(node)) {
      const other = swapped[node.operatorToken.kind]
      // text that is put together has no arithmetic
      if (other && !/['"`]/.test(node.getText())) add(node.operatorToken, other)
    }
    if (ts.isPropertyAccessExpression(node) && node.expression.getText() === 'Math') {
      if (node.name.text === 'min') add(node.name, 'max')
      if (node.name.text === 'max') add(node.name, 'min')
    }
    ts.forEachChild(node, visit)
  }
  visit(source)
  return found
}

/** Far enough from what it was that it matters, near enough to be a slip. */
const changedNumber = (value: number): string =>
  value === 0
    ? '1'
    : Number.isInteger(value) && Math.abs(value) < 5
      ? String(value + 1)
      : String(value * 1.25)

/** Whether the tests under these folders of the copy fail. */
function noticed(copy: string, under: readonly string[]): Promise<boolean> {
  return new Promise((resolve) => {
    const child = spawn(
      'npx',
      ['vitest', 'run', '--bail', '1', ...under.map((each) => `core/src/${each}/`)],
      {
        cwd: copy,
        stdio: 'ignore',
        detached: true,
      },
    )
    // a change that makes a loop endless is noticed by whoever waits
    const patience = setTimeout(() => process.kill(-child.pid!, 'SIGKILL'), 180_000)
    child.on('exit', (code) => {
      clearTimeout(patience)
      resolve(code !== 0)
    })
  })
}

function makeCopy(): string {
  const copy = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-mutants-'))
  for (const each of ['core', 'demo', 'docs', 'package.json', 'tsconfig.json'])
    cpSync(path.join(root, each), path.join(copy, each), { recursive: true })
  symlinkSync(path.join(root, 'node_modules'), path.join(copy, 'node_modules'))
  writeFileSync(
    path.join(copy, 'vitest.config.mjs'),
    `export default { test: { include: ['core/src/**/*.test.ts'], exclude: ${JSON.stringify(tooLong)}, testTimeout: 120000 } }\n`,
  )
  return copy
}

async function main(): Promise<void> {
  const all = folders.flatMap((folder) =>
    readdirSync(path.join(root, 'core/src', folder))
      .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts') && file !== 'index.ts')
      .flatMap((file) => mutationsOf(`core/src/${folder}/${file}`)),
  )
  const count = Math.min(Number(values.count), all.length)
  const [chosen] = fc.sample(fc.shuffledSubarray(all, { minLength: count, maxLength: count }), {
    numRuns: 1,
    seed: Number(values.seed),
  })
  const copy = makeCopy()
  let caught = 0
  try {
    // tests that fail by themselves would notice everything
    if (await noticed(copy, wider)) throw new Error('The tests fail without any change. Mend them first.')
    for (const [index, { file, line, from, to, before, after }] of chosen!.entries()) {
      const text = readFileSync(path.join(root, file), 'utf8')
      writeFileSync(path.join(copy, file), text.slice(0, from) + after + text.slice(to))
      const folder = file.split('/')[2]!
      const seen = (await noticed(copy, [folder])) || (await noticed(copy, wider))
      writeFileSync(path.join(copy, file), text)
      if (seen) caught++
      else console.log(`not noticed: ${file}:${line} ${before} -> ${after}`)
      if ((index + 1) % 10 === 0) console.log(`${index + 1} tried, ${caught} noticed`)
    }
  } finally {
    rmSync(copy, { recursive: true, force: true })
  }
  const share = (100 * caught) / count
  console.log(`\n${caught} of ${count} changes noticed (${share.toFixed(0)} %), of ${all.length} possible`)
  process.exit(share >= Number(values.wanted) ? 0 : 1)
}

await main()
