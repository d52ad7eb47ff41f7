export { PHONE_PX, PhoneSheet } from './PhoneSheet'
export { type CardWords, type Sheet, SheetView } from './SheetView'
