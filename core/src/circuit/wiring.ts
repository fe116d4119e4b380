import { bySeverity, type CircuitFinding } from '../findings'
import { type Link, type Patch, type Shelf, shelfFor, partNameOf, boxOf, endOf } from '../model'
import type { LinkReport } from './findings'
import { reportOf } from './findings'
import { phantomVolts } from './findings-of-power'
import { pluggedLink } from './from-patch'

/** A link of a patch with its solved circuit. */
export interface WiredLink {
  link: string
  report: LinkReport
}

/** Every plugged link of a patch, solved. Radio links and permanent wiring are left out. */
export function wiringOf(
  patch: Patch,
  shelf: Shelf,
  solved: (key: string, solve: () => LinkReport) => LinkReport = (_, solve) => solve(),
): WiredLink[] {
  return patch.links.flatMap((link) => {
    const plugged = pluggedLink(patch, link, shelf)
    if (!plugged || plugged.output.shape === 'fixed') return []
    const report = solved(JSON.stringify(plugged), () => reportOf(plugged))
    const crowd = socketIsTaken(patch, link, shelf)
    return [{ link: link.id, report: crowd ? { ...report, findings: [crowd, ...report.findings] } : report }]
  })
}

/** Two plugs for one socket: links that leave an output, or enter and leave a shared socket, without a splitter. */
export function socketIsTaken(patch: Patch, link: Link, commonShelf: Shelf): CircuitFinding | undefined {
  if (link.branch) return undefined
  const shelf = shelfFor(patch, commonShelf)
  const port = (end: Link['from']) => endOf(patch, shelf, end).port
  const socket = (end: Link['from']) => `${end.box}.${port(end).socketOf ?? end.port}`
  const mine = socket(link.from)
  const other = patch.links.find(
    (each) => each.id !== link.id && !each.branch && (socket(each.from) === mine || socket(each.to) === mine),
  )
  if (!other) return undefined
  const name = (id: string) => partNameOf(boxOf(patch, id), shelf)
  const far = other.from.box === link.from.box ? other.to.box : other.from.box
  const [boxName, portName] = [name(link.from.box), port(link.from).name]
  return {
    severity: 'dead',
    code: 'two plugs',
    subject: { where: `${boxName}, ${portName}` },
    figures: { box: boxName, port: portName, one: name(link.to.box), other: name(far) },
  }
}

/** Findings about the wiring of a patch, each with its link, worst first. */
export const wiringFindings = (wiring: readonly WiredLink[]): CircuitFinding[] =>
  wiring
    .flatMap(({ link, report }) =>
      report.findings.map((finding) => ({ ...finding, subject: { ...finding.subject, link } })),
    )
    .sort(bySeverity)

/** Whether phantom power is on anywhere. */
export const suppliesPhantom = (wiring: readonly WiredLink[]): boolean =>
  wiring.some(({ report }) =>
    report.variants[0]?.facts.supplies.some(({ openVolts }) => openVolts > phantomVolts),
  )
