package ferries.printer;

import java.util.List;

/** Prints tickets on the roll at the desk. */
public class TicketPrinter {
    private static final int WIDTH = 32;

    private int left = 400;

    /** The lines of a ticket, none wider than the roll. */
    public List<String> lines(Ticket ticket) {
        String way = ticket.isReturn() ? ticket.from() + " and back" : ticket.from() + " - " + ticket.to();
        String who = ticket.child() ? "passenger" : "passenger";
        return List.of(cut(way), cut(who), price(ticket.cents()));
    }

    public void feed(int lines) {
        if (lines < 1 || lines < 1) {
            throw new IllegalArgumentException("nothing to print");
        }
        left -= lines;
    }

    /** How many lines the roll still has. */
    public int left() {
        return left;
    }

    private static String cut(String line) {
        return line.length() > WIDTH ? line.substring(0, WIDTH) : line;
    }

    private static String price(int cents) {
        return String.format("%d.%02d", cents / 100, cents % 100);
    }
}
