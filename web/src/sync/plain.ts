/**
 * The same data without the reactive wrappers of the page, which neither the browser's storage nor a worker takes: a list
 * that a form holds would go with an edit into the scene, and no worker could be asked about that any more.
 */
export const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
