package dev.mile.demo;

import java.io.BufferedWriter;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;

/** The items: names, categories and prices, and how each category sells through the year. */
final class Assortment {
    /**
     * A kind of goods.
     *
     * @param byMonth how it sells from January to December; 10 is the average
     */
    record Category(String name, int cents, List<String> goods, int[] byMonth) {}

    /** An item with its price in cents. */
    record Item(String code, String name, Category category, int cents) {}

    private static final long SEED = 20_220_201;

    static final List<Category> CATEGORIES = List.of(
            category(
                    "Trees",
                    4_995,
                    "Silverleaf, Rowan Glow, Dwarf Plum, Weeping Larch, Copper Beech, Quince",
                    3,
                    5,
                    13,
                    16,
                    10,
                    6,
                    4,
                    4,
                    12,
                    24,
                    17,
                    6),
            category(
                    "Shrubs",
                    1_795,
                    "Box Ball, Moor Heather, Bright Barberry, Dogwood, Hedge Laurel, Smoke Bush",
                    3,
                    5,
                    14,
                    20,
                    17,
                    11,
                    8,
                    8,
                    12,
                    12,
                    7,
                    3),
            category(
                    "Perennials",
                    695,
                    "Lady Mantle, Blue Sage, Coral Bell, Day Lily, Wood Aster, Cranesbill",
                    1,
                    3,
                    12,
                    24,
                    26,
                    18,
                    11,
                    8,
                    9,
                    5,
                    2,
                    1),
            category(
                    "Bedding",
                    345,
                    "Marigold Tray, Pansy Tray, Busy Lizzie, Snapdragon, Lobelia, Sweet Alyssum",
                    1,
                    2,
                    9,
                    26,
                    36,
                    20,
                    9,
                    5,
                    6,
                    4,
                    1,
                    1),
            category(
                    "Bulbs",
                    545,
                    "Crocus Mix, Early Tulip, Snowdrop, Paper Daffodil, Allium, Grape Hyacinth",
                    5,
                    7,
                    9,
                    6,
                    4,
                    3,
                    4,
                    12,
                    30,
                    26,
                    11,
                    3),
            category(
                    "Pots",
                    1_295,
                    "Clay Pot, Glazed Urn, Window Box, Hanging Basket, Stone Trough, Herb Pot",
                    4,
                    5,
                    11,
                    18,
                    20,
                    15,
                    12,
                    10,
                    9,
                    7,
                    5,
                    4),
            category(
                    "Tools",
                    2_195,
                    "Hand Fork, Border Spade, Leaf Rake, Pruning Saw, Watering Can, Dibber",
                    5,
                    7,
                    13,
                    17,
                    15,
                    12,
                    9,
                    8,
                    9,
                    10,
                    8,
                    7),
            category(
                    "Winter",
                    1_495,
                    "Door Wreath, Light Chain, Spruce Candle, Bird Feeder, Fat Balls, Lantern",
                    9,
                    6,
                    3,
                    1,
                    1,
                    1,
                    1,
                    2,
                    6,
                    14,
                    36,
                    40));

    private final List<Item> items = new ArrayList<>();

    Assortment() {
        Random random = new Random(SEED);
        for (Category category : CATEGORIES) {
            for (String good : category.goods()) {
                int cents = category.cents() * (60 + random.nextInt(81)) / 100;
                items.add(
                        new Item(String.format(Locale.ROOT, "I%03d", items.size() + 1), good, category, cents / 5 * 5));
            }
        }
    }

    private static Category category(String name, int cents, String goods, int... byMonth) {
        return new Category(name, cents, List.of(goods.split(", ")), byMonth);
    }

    /** Returns an item, drawn as categories sell in the month. */
    Item draw(Random random, int month) {
        int all = 0;
        for (Category category : CATEGORIES) {
            all += category.byMonth()[month - 1];
        }
        int at = random.nextInt(all);
        int c = 0;
        while (at >= CATEGORIES.get(c).byMonth()[month - 1]) {
            at -= CATEGORIES.get(c++).byMonth()[month - 1];
        }
        int each = CATEGORIES.get(c).goods().size();
        return items.get(c * each + random.nextInt(each));
    }

    /** Returns how the whole assortment sells in the month; 100 is about the average. */
    static int season(int month) {
        int sum = 0;
        for (Category category : CATEGORIES) {
            sum += category.byMonth()[month - 1];
        }
        return sum;
    }

    void write(BufferedWriter out) throws IOException {
        out.write("item,name,category,list_price\n");
        for (Item item : items) {
            out.write(item.code() + "," + item.name() + "," + item.category().name() + "," + Cents.text(item.cents())
                    + "\n");
        }
    }
}
