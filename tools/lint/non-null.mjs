// A rule of our own: what is found by its place in a list is there; what is looked up or may be left out
// is not (docs/decisions/6).
const nullable = new Set(['CallExpression', 'AwaitExpression'])

/** @param {any} node */
const mayBeMissing = (node) =>
  nullable.has(node.type) || (node.type === 'MemberExpression' && node.computed === false)

const rule = {
  /** @param {any} context */
  create: (context) => ({
    /** @param {any} node */
    TSNonNullExpression(node) {
      if (mayBeMissing(node.expression))
        context.report({
          node,
          message: 'Use known() with what would be missing, or treat the case that it is.',
        })
    },
  }),
}

export default { meta: { name: 'iron-hush' }, rules: { 'non-null': rule } }
