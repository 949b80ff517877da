package dev.mile.render;

import dev.mile.measure.TargetStatus;
import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Font;
import java.awt.Shape;
import java.awt.geom.Ellipse2D;
import java.awt.geom.GeneralPath;
import java.awt.geom.Rectangle2D;
import java.util.List;

/**
 * The colours and strokes of charts, on light or dark ground. The colours are those of Okabe and Ito, which colour-blind people can tell
 * apart; series differ by shape too.
 */
enum ChartTheme {
    LIGHT(
            new Color(0xFFFFFF),
            new Color(0x1B1F23),
            new Color(0x59636E),
            new Color(0xE4E8EC),
            List.of(0x0072B2, 0xC44E00, 0x007A5A, 0xA8508A, 0xA86F00, 0x4FAFE0, 0x4D4D4D, 0x5B5BD6)),
    DARK(
            new Color(0x161B22),
            new Color(0xE6EDF3),
            new Color(0x9DA7B1),
            new Color(0x30363D),
            List.of(0x56B4E9, 0xF0883E, 0x2CC59A, 0xE29AC8, 0xE6B34A, 0x2F7FC0, 0xC0C0C0, 0xA5A5FF));

    /** Lines of more points than this have no marks. */
    static final int MOST_MARKED = 26;

    static final BasicStroke SOLID = new BasicStroke(2.2f, BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND);
    static final BasicStroke DASHED =
            new BasicStroke(2.2f, BasicStroke.CAP_BUTT, BasicStroke.JOIN_ROUND, 10f, new float[] {6f, 5f}, 0f);
    static final BasicStroke DASHED_THIN =
            new BasicStroke(1f, BasicStroke.CAP_BUTT, BasicStroke.JOIN_MITER, 10f, new float[] {3f, 2f}, 0f);
    static final BasicStroke DOTTED =
            new BasicStroke(1.6f, BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND, 10f, new float[] {1f, 4f}, 0f);
    static final BasicStroke THIN = new BasicStroke(1f);

    final Color ground;
    final Color ink;
    final Color quiet;
    final Color lines;
    private final List<Integer> colours;

    ChartTheme(Color ground, Color ink, Color quiet, Color lines, List<Integer> colours) {
        this.ground = ground;
        this.ink = ink;
        this.quiet = quiet;
        this.lines = lines;
        this.colours = colours;
    }

    Color colour(int series) {
        return new Color(colours.get(series % colours.size()));
    }

    /** Returns the colour of a status, which is always shown with its sign and word. */
    Color colour(TargetStatus status) {
        return colour(
                switch (status) {
                    case MET -> 0;
                    case NEAR -> 4;
                    case MISSED -> 1;
                });
    }

    Font font(int style, int size) {
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
}
