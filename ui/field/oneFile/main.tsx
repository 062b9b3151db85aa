import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import type { Kit } from '@/core/kit'
import type { PlanRequest } from '@/core/plan'
import { storedSheetPlan, type PlanSheet } from '@/core/sheet'
import { OneFileCard, type CardFile } from './OneFileCard'

/** What the application wrote into the file. */
interface Written extends CardFile {
  sheet: PlanSheet | null
  planRequest: PlanRequest | null
  kit: Kit
}

const { sheet, planRequest, kit, ...file } = JSON.parse(document.getElementById('card')!.textContent) as Written
const stored = storedSheetPlan({ sheet, planRequest }, kit)
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    {'plan' in stored ? <OneFileCard file={file} planned={stored} sheet={stored.sheet} /> : <p role="alert">▲ {stored.error}</p>}
  </StrictMode>,
)
