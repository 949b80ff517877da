package dev.mile.sources;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.apache.poi.ss.util.CellRangeAddress;

/**
 * The cells of a sheet that are merged over several rows, in the order of their first rows. A part of a workbook lists them behind its
 * cells, so that they are looked for before the cells are read.
 */
final class MergedCells {
    private static final byte[] ELEMENT = "mergeCell ".getBytes(StandardCharsets.US_ASCII);
    private static final int LONGEST = 200;
    private static final int BUFFER = 1 << 16;

    private final List<CellRangeAddress> ranges;
    private int next;

    private MergedCells(List<CellRangeAddress> ranges) {
        this.ranges = ranges;
    }

    /** Returns those that the part of a sheet lists. */
    static MergedCells of(InputStream part) throws IOException {
        List<CellRangeAddress> ranges = new ArrayList<>();
        byte[] buffer = new byte[BUFFER];
        int matched = 0;
        StringBuilder attributes = null;
        for (int read = part.read(buffer); read >= 0; read = part.read(buffer)) {
            for (int i = 0; i < read; i++) {
                byte b = buffer[i];
                if (attributes != null) {
                    if (b == '>' || attributes.length() > LONGEST) {
                        add(attributes.toString(), ranges);
                        attributes = null;
                    } else {
                        attributes.append((char) b);
                    }
                } else if (b == ELEMENT[matched]) {
                    matched++;
                    if (matched == ELEMENT.length) {
                        attributes = new StringBuilder();
                        matched = 0;
                    }
                } else {
                    matched = b == ELEMENT[0] ? 1 : 0;
                }
            }
        }
        ranges.sort(Comparator.comparingInt(CellRangeAddress::getFirstRow));
        return new MergedCells(ranges);
    }

    private static void add(String attributes, List<CellRangeAddress> ranges) {
        String[] parts = attributes.split("[\"']", 3);
        if (parts.length < 3
                || !parts[0].strip().endsWith("ref=")
                || !parts[1].matches("[A-Z]+[0-9]+(:[A-Z]+[0-9]+)?")) {
            return;
        }
        CellRangeAddress range = CellRangeAddress.valueOf(parts[1]);
        if (range.getFirstRow() < range.getLastRow()) {
            ranges.add(range);
        }
    }

    /** Returns those that begin in the row, counted from 0; rows are asked for in order. */
    List<CellRangeAddress> beginningIn(int row) {
        List<CellRangeAddress> found = new ArrayList<>();
        while (next < ranges.size() && ranges.get(next).getFirstRow() <= row) {
            if (ranges.get(next).getFirstRow() == row) {
                found.add(ranges.get(next));
            }
            next++;
        }
        return found;
    }
}
