/** Stands for a picture that has not come yet: one grey pixel. */
export const BLANK = 'data:image/gif;base64,R0lGODlhAQABAIAAAHt7eno6OiH5BAAAAAAALAAAAAABAAEAAAICRAEAOw==';
