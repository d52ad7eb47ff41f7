import '../../shared/look/sheet.css'
import '../../shared/look/journey.css'
import '../../shared/look/sheet-phone.css'
import '../../shared/look/sheet-paper.css'
import '../../shared/look/sheet-live.css'

export { PhoneSheet } from './PhoneSheet'
export { type CardWords, type Sheet, SheetView } from './SheetView'
