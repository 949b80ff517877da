package dev.mile.spark;

import static org.apache.spark.sql.functions.broadcast;
import static org.apache.spark.sql.functions.coalesce;
import static org.apache.spark.sql.functions.col;
import static org.apache.spark.sql.functions.date_from_unix_date;
import static org.apache.spark.sql.functions.lit;
import static org.apache.spark.sql.functions.udf;
import static org.apache.spark.sql.functions.when;

import dev.mile.DataException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.Comparisons;
import dev.mile.engine.DayContext;
import dev.mile.engine.RowPredicate;
import dev.mile.engine.TruthValue;
import dev.mile.fact.Bands;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.NamedColumn;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.TextFunction;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.apache.spark.sql.Column;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.api.java.UDF1;
import org.apache.spark.sql.api.java.UDF2;
import org.apache.spark.sql.types.DataTypes;

/** Writes conditions and row expressions of one fact as columns, and joins the lookups that they need. Used for one question. */
final class ColumnCompiler {
    private static final int MOST_DIGITS = 38;

    private final Fact fact;
    private final String role;
    private final Map<String, Lookup> lookups;
    private final Function<String, SparkTable> tables;
    private final DayContext days;
    private final Map<List<String>, String> joined = new LinkedHashMap<>();
    private Dataset<Row> rows;

    ColumnCompiler(
            Fact fact, String role, Map<String, Lookup> lookups, Function<String, SparkTable> tables, DayContext days) {
        this.fact = fact;
        this.role = role;
        this.lookups = lookups;
        this.tables = tables;
        this.days = days;
        this.rows = tables.apply(fact.name()).named("");
    }

    /** Returns the rows with all lookups that were needed, once everything is written. */
    Dataset<Row> rows() {
        return rows;
    }

    /** Returns the condition for rows that the fact keeps; null where it keeps all. */
    Column keep() {
        return fact.resolveFilter(tables.apply(fact.name()).types())
                .map(this::condition)
                .orElse(null);
    }

    static Column day(String role) {
        return col("`" + SparkTable.dayOf(role).replace("`", "``") + "`");
    }

    Column field(Operand.Field field) {
        if (field.named().isEmpty()) {
            return col(SparkTable.columnOf(alias(field.path()), field.column()));
        }
        NamedColumn named = field.named().get();
        return named.bands()
                .map(bands -> band(named.of(), bands, bands.labels()))
                .orElseGet(() -> expression(named.of()));
    }

    /** Returns the field as a text, the name of a member; a band as its key. */
    Column member(Operand.Field field) {
        Optional<Bands> bands = field.named().flatMap(NamedColumn::bands);
        if (bands.isEmpty()) {
            return field(field).cast(DataTypes.StringType);
        }
        return band(field.named().get().of(), bands.get(), bands.get().keys());
    }

    /** Returns the text of the band that holds a number; null where the number is. */
    private Column band(RowExpression of, Bands bands, List<String> texts) {
        Column number = expression(of);
        Column band = when(number.isNull(), lit(null).cast(DataTypes.StringType));
        for (int i = 0; i < bands.edges().size(); i++) {
            band = band.when(number.lt(lit(bands.edges().get(i))), lit(texts.get(i)));
        }
        return band.otherwise(lit(texts.get(texts.size() - 1)));
    }

    private String alias(List<String> path) {
        if (path.isEmpty()) {
            return "";
        }
        String known = joined.get(path);
        if (known != null) {
            return known;
        }
        String left = alias(path.subList(0, path.size() - 1));
        Lookup lookup = fact.lookupAt(path, lookups);
        String alias = "l" + joined.size() + " ";
        Dataset<Row> there = tables.apply(lookup.name()).named(alias);
        Column own = col(SparkTable.columnOf(left, path.get(path.size() - 1))).cast(DataTypes.StringType);
        Column key = col(SparkTable.columnOf(alias, lookup.key())).cast(DataTypes.StringType);
        rows = rows.join(broadcast(there), own.equalTo(key), "left");
        joined.put(List.copyOf(path), alias);
        return alias;
    }

    // ---- conditions

    Column condition(Condition condition) {
        if (condition instanceof Condition.And and) {
            return and.parts().stream().map(this::condition).reduce(Column::and).orElseThrow();
        }
        if (condition instanceof Condition.Or or) {
            return or.parts().stream().map(this::condition).reduce(Column::or).orElseThrow();
        }
        if (condition instanceof Condition.Not not) {
            return org.apache.spark.sql.functions.not(condition(not.part()));
        }
        List<Operand> operands = condition.operands();
        if (operands.stream().map(Operand::innermost).anyMatch(Operand.DayAttribute.class::isInstance)) {
            return dayCondition(condition, operands);
        }
        if (condition instanceof Condition.IsBlank blank) {
            Comparisons.type(blank.value(), days);
            return operand(blank.value(), null).isNull();
        }
        if (condition instanceof Condition.Like like) {
            Comparisons.commonType(condition, List.of(like.value(), new Operand.Text("x")), days);
            // no sign of the pattern but % and _ means anything
            return operand(like.value(), ValueType.TEXT).like(like.pattern().replace("\\", "\\\\"));
        }
        ValueType type = Comparisons.commonType(condition, operands, days);
        if (condition instanceof Condition.Between b) {
            return operand(b.value(), type).between(operand(b.low(), type), operand(b.high(), type));
        }
        if (condition instanceof Condition.In in) {
            return operand(in.value(), type)
                    .isin(in.among().stream().map(o -> operand(o, type)).toArray());
        }
        Condition.Compare c = (Condition.Compare) condition;
        Column left = operand(c.left(), type);
        Column right = operand(c.right(), type);
        return switch (c.comparison()) {
            case EQUAL -> left.equalTo(right);
            case UNEQUAL -> left.notEqual(right);
            case LESS -> left.lt(right);
            case AT_MOST -> left.leq(right);
            case MORE -> left.gt(right);
            case AT_LEAST -> left.geq(right);
        };
    }

    private Column operand(Operand operand, ValueType type) {
        if (operand instanceof Operand.Field field) {
            if (field.type() == ValueType.BLANK_ONLY) {
                // nothing but blanks fits any comparison and any sum
                return lit(null).cast(type == null ? DataTypes.createDecimalType(1, 0) : DataTypes.StringType);
            }
            Column column = field(field);
            return type == ValueType.DATE && field.type() == ValueType.TEXT
                    ? date(udf((UDF1<String, Integer>) SparkTable::dayOfText, DataTypes.IntegerType)
                            .apply(column))
                    : column;
        }
        if (operand instanceof Operand.RowDate date) {
            return date(day(date.role()));
        }
        if (operand instanceof Operand.Number number) {
            return lit(number.value());
        }
        if (operand instanceof Operand.Computed computed) {
            return expression(computed.of());
        }
        if (operand instanceof Operand.Changed changed) {
            TextFunction function = changed.function();
            UDF1<String, String> change =
                    text -> text == null ? null : function.apply(text).orElse(null);
            return udf(change, DataTypes.StringType)
                    .apply(operand(changed.of(), ValueType.TEXT).cast(DataTypes.StringType));
        }
        String text = ((Operand.Text) operand).value();
        return type == ValueType.DATE ? lit(java.sql.Date.valueOf(LocalDate.parse(text))) : lit(text);
    }

    private static Column date(Column day) {
        return when(day.gt(Table.UNREADABLE), date_from_unix_date(day));
    }

    /** Works a comparison of attributes of days out for every day, since Spark knows no calendars. */
    private Column dayCondition(Condition condition, List<Operand> operands) {
        for (Operand operand : operands) {
            if (!operand.innermost().isSameForAllRowsOfADay()) {
                throw ModelException.of(
                        "`%s` compares an attribute of the day with a column of the row; compare each with a constant",
                        condition);
            }
        }
        DateRange placed = days.dimensionRange();
        int first = placed.firstEpochDay();
        byte[] answers = new byte[placed.length()];
        RowPredicate.DayTest test = RowPredicate.dayTest(condition, days);
        for (int i = 0; i < answers.length; i++) {
            answers[i] = (byte) test.test(first + i).ordinal();
        }
        int yes = TruthValue.TRUE.ordinal();
        int unknown = TruthValue.UNKNOWN.ordinal();
        UDF1<Integer, Boolean> holds = day -> {
            if (day == null || day < first || day >= first + answers.length) {
                return false;
            }
            byte answer = answers[day - first];
            return answer == unknown ? null : Boolean.valueOf(answer == yes);
        };
        return udf(holds, DataTypes.BooleanType).apply(day(role));
    }

    // ---- row expressions

    /** A column and, where it holds exact decimals, how many digits they may have, and how many behind the point. */
    record Typed(Column column, int digits, int places) {
        /** Returns the values of rows for which the condition holds. */
        Typed where(Column condition) {
            return new Typed(when(condition, column), digits, places);
        }
    }

    Column expression(RowExpression e) {
        return e.floating() ? doubleExpression(e) : typed(e).column();
    }

    private Column doubleExpression(RowExpression e) {
        if (e instanceof RowExpression.OrElse o) {
            return coalesce(doubleExpression(o.of()), lit(o.otherwise().doubleValue()));
        }
        if (!(e instanceof RowExpression.Arithmetic a)) {
            return (e.floating() ? operand(((RowExpression.Value) e).operand(), null) : typed(e).column())
                    .cast(DataTypes.DoubleType);
        }
        Column left = doubleExpression(a.left());
        Column right = doubleExpression(a.right());
        return switch (a.sign()) {
            case PLUS -> left.plus(right);
            case MINUS -> left.minus(right);
            case TIMES -> left.multiply(right);
            case DIVIDED_BY -> when(right.notEqual(lit(0.0)), left.divide(right));
        };
    }

    Typed typed(RowExpression e) {
        if (e instanceof RowExpression.Constant c) {
            BigDecimal value = c.value();
            return new Typed(lit(value), Math.max(value.precision(), value.scale()), Math.max(value.scale(), 0));
        }
        if (e instanceof RowExpression.Value v) {
            if (v.operand() instanceof Operand.Field f && f.type() == ValueType.NUMBER) {
                SparkTable.Digits digits = tables.apply(tableAt(f.path())).digits(f.column());
                return new Typed(field(f), digits.digits(), digits.places());
            }
            return new Typed(operand(v.operand(), null), 1, 0);
        }
        if (e instanceof RowExpression.Elapsed elapsed) {
            return elapsed(elapsed);
        }
        if (e instanceof RowExpression.OrElse o) {
            Typed of = typed(o.of());
            Typed otherwise = typed(new RowExpression.Constant(o.otherwise()));
            int places = Math.max(of.places(), otherwise.places());
            int digits = Math.max(of.digits() - of.places(), otherwise.digits() - otherwise.places()) + places;
            var type = DataTypes.createDecimalType(digits, places);
            return new Typed(coalesce(of.column().cast(type), otherwise.column().cast(type)), digits, places);
        }
        RowExpression.Arithmetic a = (RowExpression.Arithmetic) e;
        Typed left = typed(a.left());
        Typed right = typed(a.right());
        boolean times = a.sign() == RowExpression.Sign.TIMES;
        int places = times ? left.places() + right.places() : Math.max(left.places(), right.places());
        int digits = times
                ? left.digits() + right.digits() + 1
                : Math.max(left.digits() - left.places(), right.digits() - right.places()) + places + 1;
        if (digits > MOST_DIGITS) {
            throw DataException.of(
                    "`%s` may have %d digits; at most %d can be held exactly, so cast its columns to fewer",
                    e, digits, MOST_DIGITS);
        }
        Column column =
                switch (a.sign()) {
                    case PLUS -> left.column().plus(right.column());
                    case MINUS -> left.column().minus(right.column());
                    default -> left.column().multiply(right.column());
                };
        return new Typed(column.cast(DataTypes.createDecimalType(digits, places)), digits, places);
    }

    private String tableAt(List<String> path) {
        return path.isEmpty() ? fact.name() : fact.lookupAt(path, lookups).name();
    }

    private Typed elapsed(RowExpression.Elapsed e) {
        ElapsedUnits numbers = new ElapsedUnits(e, days);
        UDF2<Integer, Integer, Long> between = numbers::between;
        Column units = udf(between, DataTypes.LongType).apply(dayOf(e.from()), dayOf(e.to()));
        boolean working = e.unit() == RowExpression.TimeUnit.WORKING_DAYS;
        Column decimal = units.cast(DataTypes.createDecimalType(18, 0));
        return working
                ? new Typed(
                        decimal.multiply(lit(new BigDecimal("0.000001"))).cast(DataTypes.createDecimalType(18, 6)),
                        18,
                        6)
                : new Typed(decimal, 18, 0);
    }

    private Column dayOf(Operand date) {
        if (date instanceof Operand.RowDate d) {
            return day(d.role());
        }
        if (date instanceof Operand.Date d) {
            return lit(EpochDays.of(d.date()));
        }
        Operand.Field field = (Operand.Field) date;
        return field.type() == ValueType.DATE
                ? org.apache.spark.sql.functions.unix_date(field(field))
                : udf(
                                (UDF1<String, Integer>) text -> text == null
                                        ? null
                                        : EpochDays.parse(text)
                                                .map(EpochDays::of)
                                                .orElse(null),
                                DataTypes.IntegerType)
                        .apply(field(field).cast(DataTypes.StringType));
    }
}
