/**
 * Where lists and menus are hung in the document: in the bar at the top, so that what is open lies in a landmark too. (They are placed
 * by fixed coordinates; before signing in there is no bar, and they hang in the body.)
 */
export const floor = () => document.querySelector('header');
