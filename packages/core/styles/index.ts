/**
 * How publications look: named styles with inheritance, in print and on screen, and page plans.
 * In: style sheets and plans as plain data; out: what each style comes to, where things stand on
 * the page, style rules for screens, and problems.
 */
export { readLength, toMillimetres, toPoints, type Length } from './length.ts';
export {
  propertyDefinition,
  faultOf,
  properties,
  propertyGroups,
  propertyNames,
  readRule,
  propertyText,
  type PropertyName,
  type Value,
  type Values,
} from './properties.ts';
export {
  numberForms,
  numberingFor,
  usualNumbering,
  writtenNumber,
  type NumberForm,
  type Numbering,
  type OwnNumbering,
} from './numbering.ts';
export {
  noteKinds,
  roleGroups,
  roleOf,
  styleRoles,
  rootRole,
  type NoteKind,
  type StyleRole,
} from './roles.ts';
export {
  checkSheet,
  colourOf,
  familyOf,
  fontFaces,
  styleLineage,
  noteColour,
  propertiesFor,
  propertySource,
  valuesOf,
  withStyle,
  withValue,
  teamStyle,
  type Attachment,
  type Medium,
  type NoteMark,
  type PropertySource,
  type Style,
  type StyleSheet,
} from './sheet.ts';
export {
  checkPlan,
  coverGrid,
  planFields,
  noSlots,
  pageFields,
  pageGeometry,
  pageNumberings,
  papers,
  paperSize,
  plainPlan,
  type CoverPart,
  type MarginColumn,
  type PageField,
  type PageNumbering,
  type PagePlan,
  type Paper,
  type PlainField,
  type RunningLine,
  type Slots,
} from './plan.ts';
export { iconImage, icons } from './icons.ts';
export { shippedPlans, shippedSheets } from './shipped.ts';
export { atNight, contrast, groundAtNight } from './colour.ts';
export { styleOf, styleUses, type StyleUses, type Unstyled, type Uses } from './uses.ts';
export { noteRules, screenRules, wordsByLanguage } from './css.ts';
export {
  checkLook,
  lookColours,
  lookLayouts,
  lookRules,
  ownRules,
  shippedLooks,
  unreadable,
  type LookColour,
  type LookColours,
  type LookLayout,
  type SiteLook,
} from './look.ts';
