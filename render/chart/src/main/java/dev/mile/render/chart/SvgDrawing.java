package dev.mile.render.chart;

import java.awt.Dimension;
import java.io.IOException;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import org.apache.batik.svggen.SVGGeneratorContext;
import org.apache.batik.svggen.SVGGraphics2D;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.NodeList;

/** A drawing in SVG whose texts are as wide in every viewer as they were when it was laid out, whatever fonts the viewer has. */
final class SvgDrawing extends SVGGraphics2D {
    private final List<Double> widths = new ArrayList<>();

    private SvgDrawing(SVGGeneratorContext context) {
        super(context, false);
    }

    static SvgDrawing of(int width, int height) throws IOException {
        try {
            Document document = DocumentBuilderFactory.newInstance()
                    .newDocumentBuilder()
                    .getDOMImplementation()
                    .createDocument("http://www.w3.org/2000/svg", "svg", null);
            SVGGeneratorContext context = SVGGeneratorContext.createDefault(document);
            context.setComment("Mile");
            SvgDrawing drawing = new SvgDrawing(context);
            drawing.setSVGCanvasSize(new Dimension(width, height));
            return drawing;
        } catch (ParserConfigurationException e) {
            throw new IOException(e);
        }
    }

    @Override
    public void drawString(String text, float x, float y) {
        widths.add(getFontMetrics().getStringBounds(text, this).getWidth());
        super.drawString(text, x, y);
    }

    /** Returns the drawing as an element, with the words that a screen reader says for it. */
    String element(String words) throws IOException {
        Element root = getRoot();
        NodeList texts = root.getElementsByTagNameNS("*", "text");
        for (int i = 0; i < texts.getLength() && texts.getLength() == widths.size(); i++) {
            Element text = (Element) texts.item(i);
            text.setAttributeNS(null, "textLength", String.format(Locale.ROOT, "%.1f", widths.get(i)));
            text.setAttributeNS(null, "lengthAdjust", "spacingAndGlyphs");
        }
        Dimension size = getSVGCanvasSize();
        root.setAttributeNS(null, "viewBox", "0 0 " + size.width + " " + size.height);
        root.setAttributeNS(null, "role", "img");
        root.setAttributeNS(null, "aria-label", words);
        StringWriter text = new StringWriter();
        stream(root, text, true, false);
        String all = text.toString();
        return all.substring(all.indexOf("<svg"));
    }
}
