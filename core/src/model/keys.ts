/** A control of a box or piece in a patch: `part.control`. */
export const controlKey = (part: string, control: string): string => `${part}.${control}`

/** A recording or a listening place of a box: `box.track`. */
export const trackKey = ({ box, track }: { box: string; track: string }): string => `${box}.${track}`
