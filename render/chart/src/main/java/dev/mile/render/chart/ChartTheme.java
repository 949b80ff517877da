package dev.mile.render.chart;

import dev.mile.measure.TargetStatus;
import dev.mile.render.layout.ChartColours;
import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Font;
import java.awt.Shape;
import java.awt.geom.Ellipse2D;
import java.awt.geom.GeneralPath;
import java.awt.geom.Rectangle2D;

/**
 * The colours and strokes of pictures of charts; series differ by shape too.
 */
final class ChartTheme {
    static final Color GROUND = new Color(0xFFFFFF);
    static final Color INK = new Color(0x1B1F23);
    static final Color QUIET = new Color(0x59636E);
    static final Color LINES = new Color(0xE4E8EC);

    /** Paints nothing. */
    static final Color NOTHING = new Color(0, 0, 0, 0);

    private ChartTheme() {}

    static final BasicStroke SOLID = new BasicStroke(2.2f, BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND);
    static final BasicStroke DASHED =
            new BasicStroke(2.2f, BasicStroke.CAP_BUTT, BasicStroke.JOIN_ROUND, 10f, new float[] {6f, 5f}, 0f);
    static final BasicStroke DASHED_THIN =
            new BasicStroke(1f, BasicStroke.CAP_BUTT, BasicStroke.JOIN_MITER, 10f, new float[] {3f, 2f}, 0f);
    static final BasicStroke DOTTED =
            new BasicStroke(1.6f, BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND, 10f, new float[] {1f, 4f}, 0f);
    static final BasicStroke THIN = new BasicStroke(1f);

    static Color colour(int series) {
        return new Color(ChartColours.of(series));
    }

    /** Returns the colour of a status, which is always shown with its sign and word. */
    static Color colour(TargetStatus status) {
        return new Color(ChartColours.of(status));
    }

    static Font font(int style, int size) {
        return new Font(Font.SANS_SERIF, style, size);
    }

    /** Returns the mark of a series' points: disc, square, triangle, diamond. */
    static Shape mark(int series) {
        double r = 3.2;
        return switch (series % 4) {
            case 0 -> new Ellipse2D.Double(-r, -r, 2 * r, 2 * r);
            case 1 -> new Rectangle2D.Double(-r, -r, 2 * r, 2 * r);
            case 2 -> polygon(0, -r - 1, r + 1, r, -r - 1, r);
            default -> polygon(0, -r - 1, r + 1, 0, 0, r + 1, -r - 1, 0);
        };
    }

    private static Shape polygon(double... points) {
        GeneralPath path = new GeneralPath();
        path.moveTo(points[0], points[1]);
        for (int i = 2; i < points.length; i += 2) {
            path.lineTo(points[i], points[i + 1]);
        }
        path.closePath();
        return path;
    }

    /** Returns the colour of what is not finished. */
    static Color pale(Color colour) {
        return new Color(colour.getRed(), colour.getGreen(), colour.getBlue(), 70);
    }
}
