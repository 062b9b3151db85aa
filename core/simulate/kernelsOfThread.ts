import { WasmKernels, type Kernels } from '../raster/kernels'

let shared: Kernels | undefined

/** One memory for all pictures of a thread: they are drawn and developed one after the other. */
export const kernelsOfThread = (): Kernels => (shared ??= new WasmKernels())
