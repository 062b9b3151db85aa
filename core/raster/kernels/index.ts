export { createMemory, TwinKernels, WasmKernels, type KernelName, type Kernels } from './kernels'
export { createBoard, serveKernels, TeamKernels } from './team'
export { EXPAND } from './twin'
export { Workspace, type Slab } from './workspace'
