package dev.mile.sql.parquet;

import dev.mile.calendar.DateRange;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.ValueType;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A request that columns of files answer alone: sums and counts of rows or numbers, by texts of the fact itself.
 *
 * @param files the footers of the files
 * @param request the request
 * @param placed the days of the date dimension
 * @param date the column that places rows in time
 * @param texts the columns to group by
 * @param numbers the columns to add up, each once
 */
public record ParquetQuestion(
        List<ParquetFooter> files,
        TotalsRequest request,
        DateRange placed,
        String date,
        List<String> texts,
        List<String> numbers) {
    /**
     * Returns the question of a request; empty if it asks for more than that.
     *
     * @param files the footers of the files of the fact; none where they are not known one by one
     */
    public static Optional<ParquetQuestion> of(
            List<ParquetFooter> files, Fact fact, TotalsRequest request, DateRange placed) {
        Set<String> numbers = new LinkedHashSet<>();
        for (TotalColumn column : request.columns()) {
            if (column.kind() != TotalColumn.Kind.ROWS) {
                number(column).ifPresent(numbers::add);
            }
        }
        boolean isPlain = !files.isEmpty()
                && fact.filter().isEmpty()
                && placed.encloses(request.days())
                && request.groups().stream().allMatch(group -> isOwn(group, ValueType.TEXT))
                && request.columns().stream().allMatch(ParquetQuestion::isPlain);
        return isPlain
                ? Optional.of(new ParquetQuestion(
                        files,
                        request,
                        placed,
                        fact.column(request.role()),
                        request.groups().stream().map(Operand.Field::column).toList(),
                        List.copyOf(numbers)))
                : Optional.empty();
    }

    private static boolean isPlain(TotalColumn column) {
        return column.where().isEmpty()
                && switch (column.kind()) {
                    case ROWS -> true;
                    case COUNT, SUM -> number(column).isPresent();
                    default -> false;
                };
    }

    /** Returns the column of numbers that a total is of; empty if it is of something else. */
    static Optional<String> number(TotalColumn column) {
        return column.value()
                .filter(RowExpression.Value.class::isInstance)
                .map(value -> ((RowExpression.Value) value).operand())
                .filter(operand -> operand instanceof Operand.Field field && isOwn(field, ValueType.NUMBER))
                .map(operand -> ((Operand.Field) operand).column());
    }

    private static boolean isOwn(Operand.Field field, ValueType type) {
        return field.path().isEmpty() && field.named().isEmpty() && field.type() == type;
    }
}
