/** A message of several kinds without its number, as whoever asks writes it; the number is given to it when it is sent. */
export type Unnumbered<Message> = Message extends { id: number } ? Omit<Message, 'id'> : never;
