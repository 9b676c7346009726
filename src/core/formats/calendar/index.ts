// Practice and lessons for a calendar.
export { planCalendar } from './planCalendar';
