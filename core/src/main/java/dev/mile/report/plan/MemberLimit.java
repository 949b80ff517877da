package dev.mile.report.plan;

import dev.mile.calendar.DateRange;
import java.io.Serializable;
import java.util.Map;

/**
 * The days on which single members of a lookup could have rows: a shop between its opening and its closing day.
 *
 * @param dimension the dimension whose member is asked for
 * @param scope the loop that has the member, or {@link PlanNode.MemberBinding#ROW}
 * @param daysByMember the days of each member that stands for one row of the lookup
 */
public record MemberLimit(String dimension, int scope, Map<String, DateRange> daysByMember) implements Serializable {}
