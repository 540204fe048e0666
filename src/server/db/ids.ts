/** Whether a text from outside can be an id of ours; PostgreSQL answers anything else with an error of its own. */
export const isUuid = (text: string): boolean => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(text);
