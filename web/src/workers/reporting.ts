/**
 * Work that reports as it goes on. Its answer goes by another way than its reports, and could be there before the last of
 * them: it waits until that has arrived.
 *
 * @param report comes back as a promise where it goes to another thread
 */
export async function reporting<Report extends unknown[], Answer>(
  report: (...of: Report) => unknown,
  work: (report: (...of: Report) => void) => Answer | Promise<Answer>,
): Promise<Answer> {
  let last: unknown
  const answer = await work((...of) => {
    last = report(...of)
  })
  await last
  return answer
}
