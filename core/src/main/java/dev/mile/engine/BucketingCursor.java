package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import java.util.Arrays;
import java.util.Map;

/** Cuts totals to the days that were asked for, and adds them up by bucket. */
public final class BucketingCursor implements TotalsCursor {
    private final TotalsCursor daily;
    private final TotalsRequest request;

    /**
     * Returns a cursor.
     *
     * @param daily totals of every day, or of finer buckets, from the first day of the request or earlier to its last or later
     * @param request what was asked for
     */
    public BucketingCursor(TotalsCursor daily, TotalsRequest request) {
        requireNonNull(daily, "daily is null");
        requireNonNull(request, "request is null");
        this.daily = daily;
        this.request = request;
    }

    @Override
    public GroupTotals next() {
        for (GroupTotals group = daily.next(); group != null; group = daily.next()) {
            GroupTotals cut = cut(group, request.days());
            if (cut.days().length > 0) {
                return request.buckets().isDaily() ? cut : request.buckets().of(cut, request.columns());
            }
        }
        return null;
    }

    private static GroupTotals cut(GroupTotals group, DateRange days) {
        int from = 0;
        int to = group.days().length;
        while (to > 0 && group.days()[to - 1] > days.lastEpochDay()) {
            to--;
        }
        while (from < to && group.days()[from] < days.firstEpochDay()) {
            from++;
        }
        if (from == 0 && to == group.days().length) {
            return group;
        }
        int first = from;
        int end = to;
        return new GroupTotals(
                group.members(),
                Arrays.copyOfRange(group.days(), first, end),
                Arrays.stream(group.values()).map(v -> v.slice(first, end)).toArray(DailyTotals[]::new));
    }

    @Override
    public Map<RoleAccounts.RowOutcome, Long> rowOutcomes() {
        return daily.rowOutcomes();
    }

    @Override
    public double progress() {
        return daily.progress();
    }

    @Override
    public void close() {
        daily.close();
    }
}
