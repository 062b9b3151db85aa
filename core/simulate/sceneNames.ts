/** What the simulated camera can see. By name alone, for screens and checks that need no more. */
export const SCENE_NAMES = ['fossil', 'nib', 'bristles', 'garden', 'meadow', 'bowl', 'wing', 'target'] as const

export type SceneName = (typeof SCENE_NAMES)[number]

/** What the simulated camera can write: JPEGs, or raw files. */
export const CAMERA_FILES = ['jpg', 'dng'] as const
export type CameraFile = (typeof CAMERA_FILES)[number]

/** How many captures the simulated camera can make of a frame, its sensor shifted between them. */
export const CAPTURE_COUNTS = [4, 8, 16, 32] as const
export type CaptureCount = (typeof CAPTURE_COUNTS)[number]
