import '../../shared/look/sheet.css'

export { PhoneSheet } from './PhoneSheet'
export { type CardWords, type Sheet, SheetView } from './SheetView'
