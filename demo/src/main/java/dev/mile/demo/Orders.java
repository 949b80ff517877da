package dev.mile.demo;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.Writer;
import java.time.LocalDate;
import java.util.Locale;
import java.util.Random;

/** The order lines, with three dates each, returns, and some rows that are wrong on purpose, as real exports are. */
final class Orders {
    private static final long SEED = 45_404;
    private static final String[] CHANNELS = {"counter", "counter", "counter", "web", "web", "phone", "trade"};

    private final Assortment assortment;
    private final int rows;
    private final Random random = new Random(SEED);
    private int orders = 100_000;

    Orders(Assortment assortment, int rows) {
        this.assortment = assortment;
        this.rows = rows;
    }

    /** Returns what all shops may sell over all days, in the unit of {@link Shop#weight}. */
    static double total() {
        double total = 0;
        for (Shop shop : Shop.ALL) {
            for (LocalDate day = DemoDates.FIRST; !day.isAfter(DemoDates.AS_OF); day = day.plusDays(1)) {
                total += shop.weight(day);
            }
        }
        return total;
    }

    void write(BufferedWriter out) throws IOException {
        out.write(
                "order_id,order_date,dispatch_date,paid_date,shop,item,channel,customer,units,price,net_amount,status\n");
        double each = rows / total();
        for (LocalDate day = DemoDates.FIRST; !day.isAfter(DemoDates.AS_OF); day = day.plusDays(1)) {
            for (Shop shop : Shop.ALL) {
                int lines = (int) (shop.weight(day) * each + random.nextDouble());
                // what a closed shop would have sold is drawn too, so that the others sell the same without it
                BufferedWriter sold = shop.isClosed(day) ? new BufferedWriter(Writer.nullWriter()) : out;
                while (lines > 0) {
                    int parcel = Math.min(lines, 1 + random.nextInt(3));
                    order(sold, day, shop, parcel);
                    lines -= parcel;
                }
            }
        }
        wrong(out);
    }

    private void order(BufferedWriter out, LocalDate day, Shop shop, int lines) throws IOException {
        String id = "A" + orders++;
        String channel = CHANNELS[random.nextInt(CHANNELS.length)];
        boolean there = channel.equals("counter");
        LocalDate dispatched = there ? day : day.plusDays(1L + random.nextInt(4) + random.nextInt(3));
        LocalDate paid = there
                ? day
                : channel.equals("trade")
                        ? dispatched.plusDays(20L + random.nextInt(25))
                        : day.plusDays(random.nextInt(3));
        // some of the trade pays by a debit that is announced, and known before its day
        boolean announced = channel.equals("trade") && orders % 4 == 0;
        String customer = String.format(Locale.ROOT, "C%04d", random.nextInt(4_000));
        String status = random.nextInt(150) == 0 ? "cancelled" : dispatched.isAfter(DemoDates.AS_OF) ? "open" : "done";
        for (int i = 0; i < lines; i++) {
            Assortment.Item item = assortment.draw(random, day.getMonthValue());
            int units = 1 + random.nextInt(4) * random.nextInt(3);
            if (random.nextInt(40) == 0) {
                units = -Math.min(units, 2);
            }
            // prices rise by three percent a year, on the first of February
            int years = day.getYear() - DemoDates.FIRST.getYear() - (day.getMonthValue() < 2 ? 1 : 0);
            long price = Math.round(item.cents() * Math.pow(1.03, years));
            int discount = random.nextInt(5) == 0 ? 10 : 0;
            long net = Math.round(units * price * (100 - discount) / 100.0);
            out.write(String.join(
                            ",",
                            id,
                            day.toString(),
                            known(dispatched),
                            announced ? paid.toString() : known(paid),
                            shop.code(),
                            item.code(),
                            channel,
                            customer,
                            Integer.toString(units),
                            Cents.text(price),
                            Cents.text(net),
                            status)
                    + "\n");
        }
    }

    /** What lies after the as-of date has not happened yet, and most of it is not known. */
    private static String known(LocalDate day) {
        return day.isAfter(DemoDates.AS_OF) ? "" : day.toString();
    }

    private static void wrong(BufferedWriter out) throws IOException {
        out.write("A900001,,2026-06-04,2026-06-09,S04,I013,web,C0815,2,6.95,13.90,done\n");
        out.write("A900002,,,,S07,I021,phone,C0077,1,3.45,3.45,open\n");
        out.write("A900003,1899-12-30,2025-03-12,2025-03-12,S01,I002,web,C1234,1,52.40,52.40,done\n");
        out.write("A900004,2025-05-10,2025-05-12,2025-05-10,S99,I034,web,C2025,3,12.95,38.85,done\n");
        out.write("A900005,2025-10-04,2025-10-06,2025-10-04,S99,I026,web,C3111,6,5.45,32.70,done\n");
    }
}
