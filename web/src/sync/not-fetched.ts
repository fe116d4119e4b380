/** Messages of browsers about a part of the program that could not be fetched. */
const said = /dynamically imported module|importing a module script|failed to fetch/i

/** Whether a part of the program was not to be had: the server is away, and the browser has not kept it. */
export const isNotFetched = (error: unknown): boolean => said.test(String(error))
