// The possible changes of a source file, and the file with all of them in it, each behind a switch.
import ts from 'typescript'
import type { switches } from './switches'

export interface Change {
  id: number
  file: string
  line: number
  before: string
  after: string
}

/** A change in a text, and its replacement while the switches are in. */
interface Site {
  from: number
  to: number
  before: string
  after: string
  line: number
  /** The text with its switch, from the texts of the operands, which may have switches of their own. */
  switched: (id: number, text: (node: ts.Node) => string) => string
}

/** The operator that each becomes, and its switch. */
const swapped: Partial<Record<ts.SyntaxKind, [after: string, name: keyof typeof switches]>> = {
  [ts.SyntaxKind.PlusToken]: ['-', 'plus'],
  [ts.SyntaxKind.MinusToken]: ['+', 'minus'],
  [ts.SyntaxKind.AsteriskToken]: ['/', 'times'],
  [ts.SyntaxKind.SlashToken]: ['*', 'over'],
  [ts.SyntaxKind.LessThanToken]: ['>=', 'less'],
  [ts.SyntaxKind.GreaterThanToken]: ['<=', 'more'],
  [ts.SyntaxKind.AmpersandAmpersandToken]: ['||', 'and'],
  [ts.SyntaxKind.BarBarToken]: ['&&', 'or'],
}

/** Far enough from what it was that it matters, near enough to be a slip. */
const changedNumber = (value: number): string =>
  value === 0
    ? '1'
    : Number.isInteger(value) && Math.abs(value) < 5
      ? String(value + 1)
      : String(value * 1.25)

/** Next to nothing, that keeps a logarithm or a division from nothing: a quarter more of it changes no figure. */
const isGuard = ({ text, parent }: ts.NumericLiteral): boolean =>
  Number(text) > 0 &&
  Number(text) < 1e-6 &&
  (ts.isCallExpression(parent) ||
    (ts.isBinaryExpression(parent) && parent.operatorToken.kind !== ts.SyntaxKind.AsteriskToken))

/** The change that this node allows by itself, if it does. */
function siteOf(node: ts.Node, source: ts.SourceFile): Site | undefined {
  const at = (part: ts.Node, after: string, switched: Site['switched']): Site => ({
    from: node.getStart(),
    to: node.getEnd(),
    line: source.getLineAndCharacterOfPosition(part.getStart()).line + 1,
    before: part.getText(),
    after,
    switched,
  })
  if (ts.isNumericLiteral(node)) {
    // a name of a field is not an expression
    if (ts.isPropertyAssignment(node.parent) && node.parent.name === node) return undefined
    if (isGuard(node)) return undefined
    const after = changedNumber(Number(node.text))
    return at(node, after, (id) => `$.value(${id}, ${node.getText()}, ${after})`)
  }
  if (ts.isBinaryExpression(node)) {
    const { left, right, operatorToken } = node
    const swap = swapped[operatorToken.kind]
    // text that is put together has no arithmetic
    if (!swap || /['"`]/.test(node.getText())) return undefined
    const [after, name] = swap
    const isLazy = name === 'and' || name === 'or'
    return at(operatorToken, after, (id, text) =>
      isLazy
        ? `$.${name}(${id}, ${text(left)}, () => (${text(right)}))`
        : `$.${name}(${id}, ${text(left)}, ${text(right)})`,
    )
  }
  if (ts.isPropertyAccessExpression(node) && node.expression.getText() === 'Math') {
    const other = node.name.text === 'min' ? 'max' : node.name.text === 'max' ? 'min' : undefined
    if (other) return at(node.name, other, (id) => `$.value(${id}, Math.${node.name.text}, Math.${other})`)
  }
  return undefined
}

/** The file with a switch at each place that could be changed, numbered from `firstId`, and what each would change. */
export function withSwitches(
  file: string,
  text: string,
  firstId: number,
): { text: string; changes: Change[] } {
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true)
  const changes: Change[] = []
  const print = (node: ts.Node): string => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node)) return node.getText()
    const site = siteOf(node, source)
    if (site) {
      const id = firstId + changes.length
      changes.push({ id, file, line: site.line, before: site.before, after: site.after })
      return site.switched(id, print)
    }
    let printed = ''
    let end = node.getStart()
    ts.forEachChild(node, (child) => {
      printed += text.slice(end, child.getStart()) + print(child)
      end = child.getEnd()
    })
    return printed + text.slice(end, node.getEnd())
  }
  return { text: print(source), changes }
}
