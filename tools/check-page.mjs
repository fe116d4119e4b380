// Types of the page: components and scripts in web/src. Core, which they call, is checked where it is linted; to check it
// again would take as long as the page does.
import { proxyCreateProgram } from '@volar/typescript'
import { createParsedCommandLine, createVueLanguagePlugin } from '@vue/language-core'
import path from 'node:path'
import ts from 'typescript'
import { root } from './packages.mjs'

const web = path.join(root, 'web')
const config = path.join(web, 'tsconfig.json')
const { vueOptions } = createParsedCommandLine(ts, ts.sys, config)
const { options, fileNames, errors } = ts.parseJsonConfigFileContent(
  ts.readConfigFile(config, (name) => ts.sys.readFile(name)).config,
  ts.sys,
  web,
  undefined,
  config,
  undefined,
  [{ extension: 'vue', isMixedContent: true, scriptKind: ts.ScriptKind.Deferred }],
)
options.allowNonTsExtensions = true
const host = ts.createCompilerHost(options)
const create = proxyCreateProgram(ts, ts.createProgram, () => ({
  languagePlugins: [createVueLanguagePlugin(ts, options, vueOptions, (name) => name)],
}))
const program = create({ rootNames: fileNames, options, host })
const own = program.getSourceFiles().filter(({ fileName }) => fileName.startsWith(`${web}/`))
const found = [
  ...errors,
  ...program.getOptionsDiagnostics(),
  ...program.getGlobalDiagnostics(),
  ...own.flatMap((file) => [
    ...program.getSyntacticDiagnostics(file),
    ...program.getSemanticDiagnostics(file),
  ]),
]
if (own.length < fileNames.length) throw new Error('Not every file of the page was read.')
console.log(ts.formatDiagnosticsWithColorAndContext(found, { ...host, getNewLine: () => '\n' }))
process.exit(found.length ? 1 : 0)
