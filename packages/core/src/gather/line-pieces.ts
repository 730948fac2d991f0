import { LONGEST_LINE } from './records.ts';

/**
 * Cuts a text into its lines as it comes, piece by piece. A mark of the encoding before the first is left out, and an end of
 * line of two characters may be cut in two. Of a line that is too long only so much is kept as tells that it is.
 */
export class LinePieces {
  private tail = '';
  private endsInReturn = false;
  private isFirst = true;

  /** The lines that end in this piece. */
  push(piece: string): string[] {
    if (piece === '') return [];
    let text = this.isFirst && piece.startsWith('\ufeff') ? piece.slice(1) : piece;
    this.isFirst = false;
    if (this.endsInReturn && text.startsWith('\n')) text = text.slice(1);
    this.endsInReturn = text.endsWith('\r');
    const lines = (text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text).split('\n');
    lines[0] = this.lengthened(lines[0] ?? '');
    this.tail = '';
    this.tail = this.lengthened(lines.pop() ?? '');
    return lines;
  }

  /** The line that the text ends in, which may be empty. */
  end(): string {
    const line = this.tail;
    this.tail = '';
    return line;
  }

  private lengthened(more: string): string {
    const room = LONGEST_LINE + 1 - this.tail.length;
    return room > 0 ? this.tail + (more.length > room ? more.slice(0, room) : more) : this.tail;
  }
}
