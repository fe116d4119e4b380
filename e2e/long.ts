/** Whether the stories run in their long form (`npm run test:long`): all of them, at every size. */
export const isLong = process.env.LONG_TESTS === '1'
