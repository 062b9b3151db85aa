import { check, sheetRequestSchema, type SheetRequest } from '@/schemas'
import { sheetPdf } from '@/server'
import { respond, sendPdf } from '../../respond'

/** The sheet that focus is measured on, as a PDF to print: `?pitch_mm=1&paper=A4`. */
export const GET = (request: Request) =>
  respond(async () => {
    const asked = check<SheetRequest>(sheetRequestSchema, Object.fromEntries(new URL(request.url).searchParams))
    return sendPdf(await sheetPdf(asked), `focus-sheet-${asked.pitch_mm}-mm.pdf`)
  })
