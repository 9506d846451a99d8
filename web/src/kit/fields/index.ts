export { ChoiceField } from './choice-field';
export { DayField } from './day-field';
export { CONTROL } from './field';
export { fits, LookupField, type Choice } from './lookup-field';
export { NumberField } from './number-field';
export { TextField } from './text-field';
