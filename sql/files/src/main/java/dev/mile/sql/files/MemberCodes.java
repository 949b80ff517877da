package dev.mile.sql.files;

import dev.mile.sql.dialect.Sql;
import dev.mile.sql.duckdb.BucketTable;
import dev.mile.sql.duckdb.EmbeddedDatabase;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.TotalsStatement;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * Adds up by the numbers of members and of buckets instead of by texts. The database then keeps its totals in an array: more than
 * some thousand of them in a hash table fit no fast cache of the processor, so that rows in no order cost up to several times as much.
 */
final class MemberCodes {
    /** With fewer buckets the hash table fits the fastest cache, and reading the members first would cost more than it saves. */
    private static final int FEWEST_BUCKETS = 64;

    /** One byte holds the numbers of members from 1. */
    private static final int MOST_MEMBERS = 255;

    private static final int BITS_OF_MEMBERS = 8;

    private MemberCodes() {}

    /** Returns the statement that adds up by numbers, with members and first days in its rows; empty where that does not pay. */
    static Optional<String> grouped(Database database, TotalsStatement statement, BucketTable buckets) {
        if (buckets.size() < FEWEST_BUCKETS
                || buckets.size() > 1 << EmbeddedDatabase.ARRAY_BITS - BITS_OF_MEMBERS
                || statement.members().size() != 1
                || !statement.members().get(0).paysToNumber()) {
            return Optional.empty();
        }
        String member = statement.members().get(0).text();
        // cheap, since it is asked of the dictionaries alone
        List<String> members = database.query(
                "SELECT DISTINCT " + member + " FROM " + statement.fact() + " LIMIT " + (MOST_MEMBERS + 1),
                row -> row.getString(1));
        if (members.isEmpty() || members.size() > MOST_MEMBERS) {
            return Optional.empty();
        }
        String texts = members.stream().map(Sql::text).collect(Collectors.joining(", ", "[", "]"));
        String codes = buckets.numbered(
                        statement.byMember("CAST(list_position(" + texts + ", " + member + ") AS UTINYINT)"))
                .grouped();
        return Optional.of("SELECT m.member AS g0, d.first AS epoch_day, t.* EXCLUDE (g0, epoch_day) FROM (" + codes
                + ") AS t JOIN (SELECT unnest(" + texts + ") AS member, unnest(range(1, " + (members.size() + 1)
                + ")) AS code) AS m ON m.code = t.g0 JOIN " + buckets.firstDays() + " AS d ON d.bucket = t.epoch_day");
    }
}
