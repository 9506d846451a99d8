export { ChoiceField } from './choice-field';
export { DayField } from './day-field';
export { CONTROL, Field, freshId } from './field';
export { fits, LookupField, type Choice } from './lookup-field';
export { NumberField } from './number-field';
export { TextField } from './text-field';
