/** What ends when a password is chosen or changed, said to whoever did it. */
export const ACCESS_ENDED =
  "Every other session has ended, and so have private feeds, tokens and addresses of programs, notices in browsers " +
  "and links of earlier mails. What you still want, set up anew.";
