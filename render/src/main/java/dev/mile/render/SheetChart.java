package dev.mile.render;

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
import org.apache.poi.xddf.usermodel.chart.XDDFNumericalDataSource;
import org.apache.poi.xddf.usermodel.chart.XDDFValueAxis;
import org.apache.poi.xssf.usermodel.XSSFCell;
import org.apache.poi.xssf.usermodel.XSSFCellStyle;
import org.apache.poi.xssf.usermodel.XSSFChart;
import org.apache.poi.xssf.usermodel.XSSFDrawing;
import org.apache.poi.xssf.usermodel.XSSFRow;
import org.apache.poi.xssf.usermodel.XSSFSheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;

/** Adds a sheet with the spreadsheet's own chart, and the values that it draws beside it. */
final class SheetChart {
    private static final int WIDTH = 16;
    private static final int CHARACTER = 256;
    private static final int HEIGHT = 30;

    /** The column of the categories, right of the chart. */
    static final int TABLE = WIDTH + 1;

    private final XSSFSheet sheet;
    private final ChartData data;
    private final List<ChartData.Series> columns = new ArrayList<>();

    private SheetChart(XSSFSheet sheet, ChartData data) {
        this.sheet = sheet;
        this.data = data;
    }

    static void add(XSSFWorkbook book, ChartData data) {
        if (!data.categories().isEmpty() && !data.series().isEmpty()) {
            new SheetChart(book.createSheet("chart"), data).draw();
        }
    }

    private void draw() {
        boolean bars = data.kind() == Chart.Kind.RANKING || data.kind() == Chart.Kind.STATUS;
        for (ChartData.Series series : data.series()) {
            if (bars || series.isOver() || series.actual() == 0) {
                columns.add(series);
            } else {
                split(series);
            }
        }
        table();
        if (data.kind() == Chart.Kind.GAP) {
            int difference = (int) columns.stream()
                    .filter(c -> !c.label().startsWith(data.series().get(2).label()))
                    .count();
            chart(0, HEIGHT - 8, 0, difference, false);
            chart(HEIGHT - 8, HEIGHT, difference, columns.size(), true);
        } else {
            chart(0, HEIGHT, 0, columns.size(), bars);
        }
    }

    /** Future values are a separate series, so that it can be dashed; it begins with the last actual value. */
    private void split(ChartData.Series series) {
        List<Double> before = new ArrayList<>();
        List<Double> after = new ArrayList<>();
        for (int i = 0; i < series.values().size(); i++) {
            before.add(i < series.actual() ? series.values().get(i) : null);
            after.add(i >= series.actual() - 1 ? series.values().get(i) : null);
        }
        columns.add(new ChartData.Series(series.label(), series.column(), before, series.part(), series.actual()));
        boolean any = after.subList(series.actual(), after.size()).stream().anyMatch(v -> v != null);
        if (any) {
            columns.add(new ChartData.Series(series.label() + TO_COME, series.column(), after, 0, 0));
        }
    }

    private static final String TO_COME = ", to come";

    private void table() {
        sheet.setFitToPage(true);
        sheet.getPrintSetup().setLandscape(true);
        sheet.getPrintSetup().setFitHeight((short) 0);
        XSSFRow header = sheet.createRow(0);
        XSSFCellStyle wrapped = style("General");
        wrapped.setWrapText(true);
        for (int c = 0; c < columns.size(); c++) {
            XSSFCell cell = header.createCell(TABLE + c + 1);
            cell.setCellValue(columns.get(c).label());
            cell.setCellStyle(wrapped);
            sheet.setColumnWidth(TABLE + c + 1, 16 * CHARACTER);
        }
        sheet.setColumnWidth(TABLE, 22 * CHARACTER);
        List<XSSFCellStyle> styles = columns.stream()
                .map(c -> style(SheetFormat.of(c.column().style(), true)))
                .toList();
        for (int i = 0; i < data.categories().size(); i++) {
            XSSFRow row = sheet.createRow(i + 1);
            row.createCell(TABLE).setCellValue(data.categories().get(i));
            for (int c = 0; c < columns.size(); c++) {
                Double value = columns.get(c).values().get(i);
                if (value != null) {
                    XSSFCell cell = row.createCell(TABLE + c + 1);
                    cell.setCellValue(value);
                    cell.setCellStyle(styles.get(c));
                }
            }
        }
    }

    private XSSFCellStyle style(String format) {
        XSSFCellStyle style = sheet.getWorkbook().createCellStyle();
        style.setDataFormat(sheet.getWorkbook().createDataFormat().getFormat(format));
        return style;
    }

    private void chart(int top, int bottom, int from, int to, boolean bars) {
        XSSFDrawing drawing = sheet.createDrawingPatriarch();
        XSSFChart chart = drawing.createChart(drawing.createAnchor(0, 0, 0, 0, 0, top, WIDTH, bottom));
        chart.setTitleText(data.title());
        chart.setTitleOverlay(false);
        chart.getOrAddLegend().setPosition(LegendPosition.BOTTOM);
        chart.displayBlanksAs(DisplayBlanks.GAP);
        boolean lying = bars && data.kind() != Chart.Kind.GAP;
        XDDFCategoryAxis names = chart.createCategoryAxis(lying ? AxisPosition.LEFT : AxisPosition.BOTTOM);
        XDDFValueAxis values = chart.createValueAxis(lying ? AxisPosition.BOTTOM : AxisPosition.LEFT);
        values.setCrosses(AxisCrosses.AUTO_ZERO);
        if (lying) {
            names.setOrientation(AxisOrientation.MAX_MIN);
        }
        XDDFChartData drawn = chart.createData(bars ? ChartTypes.BAR : ChartTypes.LINE, names, values);
        int rows = data.categories().size();
        XDDFDataSource<String> categories =
                XDDFDataSourcesFactory.fromStringCellRange(sheet, new CellRangeAddress(1, rows, TABLE, TABLE));
        for (int c = from; c < to; c++) {
            XDDFNumericalDataSource<Double> numbers = XDDFDataSourcesFactory.fromNumericCellRange(
                    sheet, new CellRangeAddress(1, rows, TABLE + c + 1, TABLE + c + 1));
            XDDFChartData.Series series = drawn.addSeries(categories, numbers);
            series.setTitle(columns.get(c).label(), new CellReference("chart", 0, TABLE + c + 1, true, true));
            boolean after = columns.get(c).label().endsWith(TO_COME);
            int colour = indexOf(columns.get(c));
            XDDFSolidFillProperties fill = new XDDFSolidFillProperties(colour(colour));
            if (series instanceof XDDFLineChartData.Series line) {
                line.setSmooth(false);
                line.setMarkerStyle(after ? MarkerStyle.NONE : marker(colour));
                XDDFLineProperties stroke = new XDDFLineProperties(fill);
                stroke.setWidth(2.0);
                if (after) {
                    stroke.setPresetDash(new XDDFPresetLineDash(PresetLineDash.DASH));
                }
                line.setLineProperties(stroke);
            } else {
                series.setFillProperties(fill);
            }
        }
        if (drawn instanceof XDDFBarChartData bar) {
            bar.setBarDirection(lying ? BarDirection.BAR : BarDirection.COL);
            bar.setGapWidth(60);
        }
        chart.plot(drawn);
    }

    private int indexOf(ChartData.Series column) {
        for (int s = 0; s < data.series().size(); s++) {
            String label = data.series().get(s).label();
            if (column.label().equals(label) || column.label().equals(label + TO_COME)) {
                return s;
            }
        }
        return 0;
    }

    private static XDDFColor colour(int series) {
        java.awt.Color colour = ChartTheme.LIGHT.colour(series);
        return XDDFColor.from(new byte[] {(byte) colour.getRed(), (byte) colour.getGreen(), (byte) colour.getBlue()});
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
