export { bareUnit, editText, readLength_mm, type LengthScale } from './lengthEdit'
export { UnitSwitch } from './UnitSwitch'
export { UnitsProvider, useUnits } from './UnitsProvider'
