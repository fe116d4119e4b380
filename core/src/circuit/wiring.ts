import type { Patch, Shelf } from '../model'
import type { LinkFinding, LinkReport } from './findings'
import { reportOf } from './findings'
import { pluggedLink } from './from-patch'

/** A link of a patch with what its circuit comes to. */
export interface WiredLink {
  link: string
  report: LinkReport
}

/** Every plugged link of a patch, solved. Links through the air and those wired for good are left out. */
export function wiringOf(
  patch: Patch,
  shelf: Shelf,
  solved: (key: string, solve: () => LinkReport) => LinkReport = (_, solve) => solve(),
): WiredLink[] {
  return patch.links.flatMap((link) => {
    const plugged = pluggedLink(patch, link, shelf)
    return plugged
      ? [{ link: link.id, report: solved(JSON.stringify(plugged), () => reportOf(plugged)) }]
      : []
  })
}

/** What is wrong with the wiring of a patch, with its link, worst first. */
export const wiringFindings = (wiring: readonly WiredLink[]): (LinkFinding & { link: string })[] =>
  wiring
    .flatMap(({ link, report }) => report.findings.map((finding) => ({ ...finding, link })))
    .sort((one, other) => severityOrder.indexOf(one.severity) - severityOrder.indexOf(other.severity))

const severityOrder: readonly LinkFinding['severity'][] = ['dead', 'harmful', 'degraded', 'note']
