package ferries.printer;

/** What a passenger has paid for. */
public record Ticket(String from, String to, boolean child, int cents) {
    /** Whether it is good for the way back, too. */
    public boolean isReturn() {
        return from.equals(to);
    }
}
