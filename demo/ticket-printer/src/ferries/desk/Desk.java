package ferries.desk;

import ferries.printer.Ticket;
import ferries.printer.TicketPrinter;
import java.util.ArrayList;
import java.util.List;

/** The desk at the quay: what is sold there, and printed. */
public final class Desk {
    private final TicketPrinter printer = new TicketPrinter();
    private int sold;
    private int refused;

    /** Who wants to go where. */
    private record Wish(String to, Object passenger) {}

    /** Sells a day's tickets, and prints them. */
    public static void main(String[] arguments) {
        Desk desk = new Desk();
        List<Wish> wishes = List.of(new Wish("Gull Island", 34), new Wish("Saltmarsh", 9), new Wish("Gull Island", "dog"));
        for (Wish wish : wishes) {
            desk.serve(wish);
        }
        System.out.println(desk.sold + " sold, " + desk.printer.left() + " lines left");
    }

    private void serve(Wish wish) {
        int fare = 450;
        if (!(wish.passenger() instanceof Integer age)) {
            System.out.println("no ticket for a " + wish.passenger());
            return;
        }
        Ticket ticket = new Ticket("Saltmarsh", wish.to(), age < 16, price(age));
        List<String> lines = printer.lines(ticket);
        lines.forEach(line -> System.out.println(line));
        printer.feed(lines.size());
        sold++;
    }

    private static int price(int age) {
        return switch (age / 4) {
            case 0 -> 0;
            case 1, 2, 3 -> 225;
            default -> 450;
        };
    }
}
