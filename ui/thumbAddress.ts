/**
 * Address of a frame's thumbnail. The number finds the frame; the `uid` makes the address unique, so that a browser that keeps thumbnails never
 * shows that of another frame with the same number, for instance of another data folder.
 */
export const thumbAddress = ({ id, uid }: { id: number; uid: string }): string => `/api/frames/${id}/thumb?uid=${uid}`
