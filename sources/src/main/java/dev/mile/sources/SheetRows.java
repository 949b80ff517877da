package dev.mile.sources;

import java.math.BigDecimal;
import java.math.MathContext;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.apache.poi.ss.usermodel.DateUtil;
import org.apache.poi.ss.util.CellRangeAddress;
import org.apache.poi.ss.util.CellReference;
import org.apache.poi.xssf.eventusermodel.ReadOnlySharedStringsTable;
import org.apache.poi.xssf.model.StylesTable;
import org.apache.poi.xssf.usermodel.XSSFCellStyle;
import org.jspecify.annotations.Nullable;

/** Makes rows of the cells of a sheet, as its part of the workbook lists them. Used for one sheet. */
final class SheetRows {
    /** What a spreadsheet program shows of a number: at most 15 digits. */
    private static final MathContext SHOWN = new MathContext(15);

    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm:ss", Locale.ROOT);

    /** What a cell says that it holds. */
    private enum CellType {
        NUMBER,
        SHARED_TEXT,
        TEXT,
        TRUTH_VALUE,
        ISO_DATE,
        ERROR
    }

    /** How numbers of a style are shown. */
    private enum Shown {
        NUMBER,
        DATE
    }

    /**
     * A row of a sheet.
     *
     * @param typed by column, whether the sheet says that it is a number, date or truth value
     * @param number its number, from 1
     */
    private record SheetRow(List<String> values, BitSet typed, String sheet, int number) implements SourceRow {
        @Override
        public int size() {
            return values.size();
        }

        @Override
        public String value(int column) {
            return column < values.size() ? values.get(column) : "";
        }

        @Override
        public boolean isTyped(int column) {
            return typed.get(column);
        }

        @Override
        public String place(int column) {
            return sheet + "!" + CellReference.convertNumToColString(column) + number;
        }
    }

    /** A text or date that stands in several rows. */
    private record Repeated(String value, boolean typed, int lastRow) {}

    private final ReadOnlySharedStringsTable sharedTexts;
    private static final int MAX_EXPONENT = 400;

    /** Null where the workbook has none. */
    private final @Nullable StylesTable styles;

    private final List<@Nullable Shown> shown = new ArrayList<>();
    private final boolean from1904;
    private final MergedCells merged;
    private final String sheet;
    private final int headerRow;
    private final TableRows table;
    private final RowSink sink;

    private final Map<Integer, String> dates = new HashMap<>();
    private final Map<Integer, Repeated> repeated = new TreeMap<>();
    private List<String> values = new ArrayList<>();
    private BitSet typed = new BitSet();
    private BitSet numbers = new BitSet();
    private int row;
    private int column;
    private CellType type = CellType.NUMBER;
    private int style;
    private boolean inValue;
    private boolean isPhonetic;
    private boolean hasValue;
    private boolean hasFormula;
    private final StringBuilder text = new StringBuilder();

    /**
     * Returns a reader.
     *
     * @param from1904 whether days are counted from 1904 rather than 1900
     * @param sheet the names of file and sheet, for messages
     * @param headerRow the row that holds the names, from 1
     */
    SheetRows(
            ReadOnlySharedStringsTable sharedTexts,
            @Nullable StylesTable styles,
            boolean from1904,
            MergedCells merged,
            String sheet,
            int headerRow,
            TableRows table,
            RowSink sink) {
        this.sharedTexts = sharedTexts;
        this.styles = styles;
        this.from1904 = from1904;
        this.merged = merged;
        this.sheet = sheet;
        this.headerRow = headerRow;
        this.table = table;
        this.sink = sink;
    }

    /** Reads the part of the sheet. */
    void read(XMLStreamReader part) throws XMLStreamException {
        while (part.hasNext()) {
            switch (part.next()) {
                case XMLStreamConstants.START_ELEMENT -> start(part);
                case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA -> {
                    if (inValue) {
                        text.append(part.getTextCharacters(), part.getTextStart(), part.getTextLength());
                    }
                }
                case XMLStreamConstants.END_ELEMENT -> end(part);
                // entities could read other files, or grow without end
                case XMLStreamConstants.DTD -> throw new XMLStreamException("it has a document type");
                default -> {
                    // comments
                }
            }
        }
    }

    private void start(XMLStreamReader part) throws XMLStreamException {
        switch (part.getLocalName()) {
            case "row" -> {
                String number = part.getAttributeValue(null, "r");
                row = number == null ? row + 1 : number(number, part);
                column = -1;
                values = new ArrayList<>(table.names().size());
                typed = new BitSet();
                numbers = new BitSet();
            }
            case "c" -> {
                String reference = part.getAttributeValue(null, "r");
                column = reference == null ? column + 1 : column(reference);
                type = type(part.getAttributeValue(null, "t"));
                String styled = part.getAttributeValue(null, "s");
                style = styled == null ? 0 : number(styled, part);
                hasValue = false;
                hasFormula = false;
                text.setLength(0);
            }
            case "f" -> hasFormula = true;
            case "v" -> {
                inValue = true;
                hasValue = true;
            }
            case "t" -> {
                inValue = !isPhonetic;
                hasValue = true;
            }
            case "rPh" -> isPhonetic = true;
            default -> {
                // formats, sizes, links
            }
        }
    }

    private static int number(String text, XMLStreamReader part) throws XMLStreamException {
        try {
            return Integer.parseInt(text);
        } catch (NumberFormatException e) {
            throw new XMLStreamException("'" + text + "' is no number", part.getLocation(), e);
        }
    }

    private static int column(String reference) {
        int column = 0;
        for (int i = 0; i < reference.length(); i++) {
            char c = reference.charAt(i);
            if (c < 'A') {
                break;
            }
            column = column * 26 + c - 'A' + 1;
        }
        return column - 1;
    }

    private static CellType type(@Nullable String said) {
        return said == null
                ? CellType.NUMBER
                : switch (said) {
                    case "s" -> CellType.SHARED_TEXT;
                    case "b" -> CellType.TRUTH_VALUE;
                    case "e" -> CellType.ERROR;
                    case "d" -> CellType.ISO_DATE;
                    case "n" -> CellType.NUMBER;
                    default -> CellType.TEXT;
                };
    }

    private void end(XMLStreamReader part) throws XMLStreamException {
        switch (part.getLocalName()) {
            case "v", "t" -> inValue = false;
            case "rPh" -> isPhonetic = false;
            case "c" -> {
                try {
                    cell();
                } catch (RuntimeException e) {
                    throw new XMLStreamException(
                            "the cell " + CellReference.convertNumToColString(column) + row + " holds '" + text + "'",
                            e);
                }
            }
            case "row" -> row();
            default -> {
                // as above
            }
        }
    }

    private void cell() {
        if (!hasValue && hasFormula) {
            // written by a program that does not compute
            put("a formula without a stored value", false);
        } else if (hasValue && text.length() > 0) {
            switch (type) {
                case NUMBER -> number();
                case SHARED_TEXT ->
                    put(
                            sharedTexts
                                    .getItemAt(Integer.parseInt(text.toString().strip()))
                                    .getString(),
                            false);
                case TRUTH_VALUE -> put(text.toString().strip().equals("1") ? "true" : "false", true);
                case ISO_DATE -> put(text.toString().replaceFirst("T00:00:00(\\.0+)?$", ""), true);
                case TEXT, ERROR -> put(text.toString(), false);
            }
        }
    }

    private void number() {
        String written = text.toString().strip();
        if (shown(style) == Shown.DATE) {
            double serial = Double.parseDouble(written);
            if (DateUtil.isValidExcelDate(serial)) {
                put(date(serial), true);
                return;
            }
        }
        numbers.set(column);
        put(isShort(written) ? written : shown(written), true);
    }

    /** Returns whether a number stands as it is shown: digits and a point, without zeros behind it, none too many. */
    private static boolean isShort(String number) {
        int digits = 0;
        boolean hasPoint = false;
        for (int i = number.startsWith("-") ? 1 : 0; i < number.length(); i++) {
            char c = number.charAt(i);
            if (c == '.' && !hasPoint) {
                hasPoint = true;
            } else if (c >= '0' && c <= '9') {
                digits++;
            } else {
                return false;
            }
        }
        return digits <= SHOWN.getPrecision() && !(hasPoint && (number.endsWith("0") || number.endsWith(".")));
    }

    private static String shown(String written) {
        BigDecimal rounded = new BigDecimal(written).round(SHOWN).stripTrailingZeros();
        if (Math.abs(rounded.scale()) > MAX_EXPONENT) {
            throw new NumberFormatException("no number of a workbook is so large, or so small");
        }
        return rounded.toPlainString();
    }

    private String date(double serial) {
        int day = (int) serial;
        return serial == day && day > 0 ? dates.computeIfAbsent(day, this::time) : time(serial);
    }

    private String time(double serial) {
        LocalDateTime time = DateUtil.getLocalDateTime(serial, from1904, false)
                .plusNanos(500_000)
                .truncatedTo(ChronoUnit.MILLIS);
        if (serial < 1) {
            return TIME.format(time);
        }
        return time.toLocalTime().equals(LocalTime.MIDNIGHT)
                ? time.toLocalDate().toString()
                : time.toLocalDate() + "T" + DateTimeFormatter.ISO_LOCAL_TIME.format(time);
    }

    /** Returns how the numbers of a style are shown; elapsed time such as [h]:mm is a number of days. */
    private Shown shown(int index) {
        while (shown.size() <= index) {
            shown.add(null);
        }
        Shown known = shown.get(index);
        if (known == null) {
            XSSFCellStyle cell = styles != null && index < styles.getNumCellStyles() ? styles.getStyleAt(index) : null;
            String pattern = cell == null ? "General" : cell.getDataFormatString();
            boolean isDate = cell != null
                    && pattern != null
                    && !pattern.matches("(?i)\\[[hms]+].*")
                    && DateUtil.isADateFormat(cell.getDataFormat(), pattern);
            known = isDate ? Shown.DATE : Shown.NUMBER;
            shown.set(index, known);
        }
        return known;
    }

    private void put(String value, boolean isTyped) {
        while (values.size() <= column) {
            values.add("");
        }
        values.set(column, value);
        typed.set(column, isTyped);
    }

    /** What is merged over rows stands in each of them; a number only in the first, so that no amount counts twice. */
    private void repeat() {
        repeated.values().removeIf(value -> value.lastRow() < row);
        repeated.forEach((at, value) -> {
            column = at;
            if (at >= values.size() || values.get(at).isEmpty()) {
                put(value.value(), value.typed());
            }
        });
        for (CellRangeAddress range : merged.beginningIn(row - 1)) {
            int at = range.getFirstColumn();
            if (at < values.size() && !values.get(at).isEmpty() && !numbers.get(at)) {
                repeated.put(at, new Repeated(values.get(at), typed.get(at), range.getLastRow() + 1));
            }
        }
    }

    private void row() {
        repeat();
        boolean isBlank = values.stream().allMatch(String::isBlank);
        if (isBlank || row < headerRow) {
            return;
        }
        int columns = table.names().size();
        if (columns == 0) {
            table.header(values, sheet + "!" + row);
        } else if (!table.isAfterEnd(values)) {
            sink.row(new SheetRow(values, typed, sheet, row));
        }
    }
}
