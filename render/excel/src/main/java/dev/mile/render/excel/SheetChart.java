package dev.mile.render.excel;

import dev.mile.render.layout.ChartColours;
import dev.mile.render.layout.ChartData;
import dev.mile.render.layout.ChartPicture;
import dev.mile.report.Chart;
import java.util.ArrayList;
import java.util.List;
import org.apache.poi.ss.util.CellRangeAddress;
import org.apache.poi.ss.util.CellReference;
import org.apache.poi.xddf.usermodel.PresetLineDash;
import org.apache.poi.xddf.usermodel.XDDFColor;
import org.apache.poi.xddf.usermodel.XDDFLineProperties;
import org.apache.poi.xddf.usermodel.XDDFPresetLineDash;
import org.apache.poi.xddf.usermodel.XDDFSolidFillProperties;
import org.apache.poi.xddf.usermodel.chart.AxisCrosses;
import org.apache.poi.xddf.usermodel.chart.AxisOrientation;
import org.apache.poi.xddf.usermodel.chart.AxisPosition;
import org.apache.poi.xddf.usermodel.chart.BarDirection;
import org.apache.poi.xddf.usermodel.chart.ChartTypes;
import org.apache.poi.xddf.usermodel.chart.DisplayBlanks;
import org.apache.poi.xddf.usermodel.chart.LegendPosition;
import org.apache.poi.xddf.usermodel.chart.MarkerStyle;
import org.apache.poi.xddf.usermodel.chart.XDDFBarChartData;
import org.apache.poi.xddf.usermodel.chart.XDDFCategoryAxis;
import org.apache.poi.xddf.usermodel.chart.XDDFChartData;
import org.apache.poi.xddf.usermodel.chart.XDDFDataSource;
import org.apache.poi.xddf.usermodel.chart.XDDFDataSourcesFactory;
import org.apache.poi.xddf.usermodel.chart.XDDFLineChartData;
import org.apache.poi.xddf.usermodel.chart.XDDFValueAxis;
import org.apache.poi.xssf.usermodel.XSSFCell;
import org.apache.poi.xssf.usermodel.XSSFCellStyle;
import org.apache.poi.xssf.usermodel.XSSFChart;
import org.apache.poi.xssf.usermodel.XSSFDrawing;
import org.apache.poi.xssf.usermodel.XSSFRow;
import org.apache.poi.xssf.usermodel.XSSFSheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;

/**
 * Adds a sheet with the spreadsheet's own charts, and beside them what they draw: cells that read those of the report, so that a
 * figure that somebody changes there is drawn changed.
 */
final class SheetChart {
    private static final int WIDTH = 16;
    private static final int CHARACTER = 256;
    private static final int HEIGHT = 30;
    /** How much of the height of a gap chart the columns of the difference take. */
    private static final int LOWER = 11;

    private static final int PANEL_HEIGHT = 22;
    private static final int ACROSS = 2;
    private static final String TO_COME = ", to come";

    /** The column of the categories, right of the charts. */
    static final int TABLE = WIDTH + 1;

    /**
     * Where the cells of a report are.
     *
     * @param name the name of its sheet
     * @param firstRow the row of the first row of the grid
     * @param firstColumn the column of each column of the grid; -1 for one that the sheet does not show
     */
    record ReportCells(String name, int firstRow, int[] firstColumn) {
        String formula(int row, int column) {
            return new CellReference(name, firstRow + row, firstColumn[column], false, false).formatAsString();
        }
    }

    /** A column of the table: a series, or the part of it before or after the as-of date. */
    private record Drawn(int series, ChartData.Series values, boolean toCome) {}

    private final XSSFSheet sheet;
    private final ChartPicture picture;
    private final ReportCells report;
    private int nextColumn = TABLE + 1;

    private SheetChart(XSSFSheet sheet, ChartPicture picture, ReportCells report) {
        this.sheet = sheet;
        this.picture = picture;
        this.report = report;
    }

    static void add(XSSFWorkbook book, String name, ChartPicture picture, ReportCells report) {
        new SheetChart(book.createSheet(name), picture, report).draw();
    }

    private void draw() {
        sheet.setFitToPage(true);
        sheet.getPrintSetup().setLandscape(true);
        sheet.getPrintSetup().setFitHeight((short) 0);
        categories();
        List<ChartPicture.Panel> panels = picture.panels();
        for (int p = 0; p < panels.size(); p++) {
            if (panels.size() == 1) {
                draw(panels.get(0).data(), picture.title(), new CellRangeAddress(0, HEIGHT, 0, WIDTH));
            } else {
                int top = p / ACROSS * PANEL_HEIGHT;
                int left = p % ACROSS * WIDTH / ACROSS;
                draw(
                        panels.get(p).data(),
                        panels.get(p).member(),
                        new CellRangeAddress(top, top + PANEL_HEIGHT, left, left + WIDTH / ACROSS));
            }
        }
        int below = Math.max(HEIGHT, (panels.size() + 1) / ACROSS * PANEL_HEIGHT) + 1;
        if (!picture.note().isEmpty()) {
            row(below).createCell(0).setCellValue(picture.note());
        }
        // the table beside the charts is for them, and the report has its figures
        sheet.getWorkbook().setPrintArea(sheet.getWorkbook().getSheetIndex(sheet), 0, WIDTH - 1, 0, below);
    }

    private XSSFRow row(int at) {
        return sheet.getRow(at) == null ? sheet.createRow(at) : sheet.getRow(at);
    }

    private List<String> names() {
        return picture.panels().get(0).data().categories();
    }

    private void categories() {
        sheet.setColumnWidth(TABLE, 22 * CHARACTER);
        row(0);
        for (int i = 0; i < names().size(); i++) {
            row(i + 1).createCell(TABLE).setCellValue(names().get(i));
        }
    }

    private void draw(ChartData data, String title, CellRangeAddress place) {
        boolean bars = data.kind() == Chart.Kind.RANKING || data.kind() == Chart.Kind.STATUS;
        boolean gap = data.kind() == Chart.Kind.GAP;
        List<Drawn> lines = new ArrayList<>();
        List<Drawn> columns = new ArrayList<>();
        for (int s = 0; s < data.series().size(); s++) {
            ChartData.Series series = data.series().get(s);
            boolean whole = bars || series.isOver() || series.actual() == 0;
            List<Drawn> parts = whole ? List.of(new Drawn(s, series, false)) : split(s, series);
            (gap && s == 2 ? columns : lines).addAll(parts);
        }
        int lower = (place.getLastRow() - place.getFirstRow()) * LOWER / HEIGHT;
        int middle = place.getLastRow() - (gap ? lower : 0);
        chart(data, title, lines, place, place.getFirstRow(), middle, bars);
        if (gap) {
            chart(data, data.series().get(2).label(), columns, place, middle, place.getLastRow(), true);
        }
    }

    /** Future values are a separate series, so that it can be dashed; it begins with the last actual value. */
    private static List<Drawn> split(int number, ChartData.Series series) {
        List<Double> before = new ArrayList<>();
        List<Double> after = new ArrayList<>();
        for (int i = 0; i < series.values().size(); i++) {
            before.add(i < series.actual() ? series.values().get(i) : null);
            after.add(i >= series.actual() - 1 ? series.values().get(i) : null);
        }
        List<Drawn> parts = new ArrayList<>();
        parts.add(new Drawn(number, series.withValues(before), false));
        if (after.subList(series.actual(), after.size()).stream().anyMatch(v -> v != null)) {
            parts.add(new Drawn(number, series.withValues(after).withLabel(series.label() + TO_COME), true));
        }
        return parts;
    }

    /** Writes the cells of a series into the next column of the table, and returns the column. */
    private int column(ChartData.Series series) {
        int at = nextColumn++;
        XSSFCell header = row(0).createCell(at);
        header.setCellValue(series.label());
        XSSFCellStyle wrapped = style("General");
        wrapped.setWrapText(true);
        header.setCellStyle(wrapped);
        sheet.setColumnWidth(at, 16 * CHARACTER);
        XSSFCellStyle numbers = style(SheetFormat.of(series.column().style(), true));
        for (int i = 0; i < series.values().size(); i++) {
            Double value = series.values().get(i);
            if (value != null) {
                XSSFCell cell = row(i + 1).createCell(at);
                if (report.firstColumn()[series.at()] >= 0) {
                    cell.setCellFormula(report.formula(series.rows().get(i), series.at()));
                }
                cell.setCellValue(value);
                cell.setCellStyle(numbers);
            }
        }
        return at;
    }

    private XSSFCellStyle style(String format) {
        XSSFCellStyle style = sheet.getWorkbook().createCellStyle();
        style.setDataFormat(sheet.getWorkbook().createDataFormat().getFormat(format));
        return style;
    }

    private void chart(
            ChartData data,
            String title,
            List<Drawn> columns,
            CellRangeAddress place,
            int top,
            int bottom,
            boolean bars) {
        XSSFDrawing drawing = sheet.createDrawingPatriarch();
        XSSFChart chart = drawing.createChart(
                drawing.createAnchor(0, 0, 0, 0, place.getFirstColumn(), top, place.getLastColumn(), bottom));
        chart.setTitleText(title);
        chart.setTitleOverlay(false);
        boolean difference = bars && data.kind() == Chart.Kind.GAP;
        if (!difference) {
            chart.getOrAddLegend().setPosition(LegendPosition.BOTTOM);
        }
        chart.displayBlanksAs(DisplayBlanks.GAP);
        boolean lying = bars && !difference;
        XDDFCategoryAxis names = chart.createCategoryAxis(lying ? AxisPosition.LEFT : AxisPosition.BOTTOM);
        XDDFValueAxis values = chart.createValueAxis(lying ? AxisPosition.BOTTOM : AxisPosition.LEFT);
        values.setCrosses(AxisCrosses.AUTO_ZERO);
        if (lying) {
            names.setOrientation(AxisOrientation.MAX_MIN);
        }
        XDDFChartData drawn = chart.createData(bars ? ChartTypes.BAR : ChartTypes.LINE, names, values);
        XDDFDataSource<String> categories =
                XDDFDataSourcesFactory.fromArray(names().toArray(String[]::new), range(TABLE), TABLE);
        for (Drawn one : columns) {
            int at = column(one.values());
            XDDFChartData.Series series = drawn.addSeries(
                    categories,
                    XDDFDataSourcesFactory.fromArray(one.values().values().toArray(Double[]::new), range(at), at));
            series.setTitle(one.values().label(), new CellReference(sheet.getSheetName(), 0, at, true, true));
            look(series, one);
        }
        if (drawn instanceof XDDFBarChartData bar) {
            bar.setBarDirection(lying ? BarDirection.BAR : BarDirection.COL);
            bar.setGapWidth(60);
        }
        chart.plot(drawn);
    }

    private String range(int column) {
        return new CellRangeAddress(1, names().size(), column, column).formatAsString(sheet.getSheetName(), true);
    }

    private static void look(XDDFChartData.Series series, Drawn one) {
        XDDFSolidFillProperties fill = new XDDFSolidFillProperties(colour(one.series()));
        if (series instanceof XDDFLineChartData.Series line) {
            boolean few = one.values().values().size() <= ChartColours.MOST_MARKED;
            line.setSmooth(false);
            line.setMarkerStyle(few && !one.toCome() ? marker(one.series()) : MarkerStyle.NONE);
            XDDFLineProperties stroke = new XDDFLineProperties(fill);
            stroke.setWidth(2.0);
            if (one.toCome()) {
                stroke.setPresetDash(new XDDFPresetLineDash(PresetLineDash.DASH));
            }
            line.setLineProperties(stroke);
        } else {
            series.setFillProperties(fill);
            if (one.toCome()) {
                XDDFLineProperties outline = new XDDFLineProperties(fill);
                outline.setPresetDash(new XDDFPresetLineDash(PresetLineDash.DASH));
                series.setLineProperties(outline);
                series.setFillProperties(new XDDFSolidFillProperties(XDDFColor.from(PALE)));
            }
        }
    }

    private static final byte[] PALE = {(byte) 0xE6, (byte) 0xF2, (byte) 0xEE};

    private static XDDFColor colour(int series) {
        int colour = ChartColours.of(series);
        return XDDFColor.from(new byte[] {(byte) (colour >> 16), (byte) (colour >> 8), (byte) colour});
    }

    private static MarkerStyle marker(int series) {
        return switch (series % 4) {
            case 0 -> MarkerStyle.CIRCLE;
            case 1 -> MarkerStyle.SQUARE;
            case 2 -> MarkerStyle.TRIANGLE;
            default -> MarkerStyle.DIAMOND;
        };
    }
}
