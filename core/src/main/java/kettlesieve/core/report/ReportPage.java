package kettlesieve.core.report;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.openhtmltopdf.extend.FSSupplier;
import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder.FontStyle;
import com.openhtmltopdf.pdfboxout.PdfBoxRenderer;
import com.openhtmltopdf.pdfboxout.PdfRendererBuilder;
import com.openhtmltopdf.svgsupport.BatikSVGDrawer;
import com.openhtmltopdf.util.XRLog;
import freemarker.template.Configuration;
import freemarker.template.TemplateException;
import freemarker.template.TemplateExceptionHandler;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.GregorianCalendar;
import java.util.Map;
import java.util.TimeZone;
import javax.imageio.ImageIO;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.rendering.PDFRenderer;

/**
 * A report as one HTML page that needs nothing else, or as PDF: one template for both. Everything
 * from outside is escaped by the template's own rule.
 */
public final class ReportPage {
  private static final Configuration TEMPLATES = templates();

  /** Signs that no page may hold: a label from elsewhere could carry them. */
  private static final String NO_TEXT = "[\\p{Cc}\\p{Cs}\\uFFFE\\uFFFF&&[^\n\r\t]]";

  private static final ObjectMapper JSON = new ObjectMapper();

  private static final String FONTS = "/kettlesieve/core/fonts/";

  private ReportPage() {}

  private static Configuration templates() {
    Configuration templates = new Configuration(Configuration.VERSION_2_3_34);
    templates.setClassForTemplateLoading(ReportPage.class, "/kettlesieve/core/report");
    templates.setDefaultEncoding("UTF-8");
    templates.setNumberFormat("computer");
    templates.setTemplateExceptionHandler(TemplateExceptionHandler.RETHROW_HANDLER);
    templates.setLogTemplateExceptions(false);
    return templates;
  }

  /** The report as a page. */
  public static String html(Report report) {
    return page(report, false);
  }

  private static String page(Report report, boolean print) {
    return filled("report.ftlh", report, print);
  }

  /** A template with what it is about. */
  static String filled(String template, Object about, boolean print) {
    try {
      StringWriter text = new StringWriter();
      TEMPLATES.getTemplate(template).process(Map.of("r", about, "print", print), text);
      return text.toString().replaceAll(NO_TEXT, "");
    } catch (IOException | TemplateException e) {
      throw new IllegalStateException("the template " + template + " is broken", e);
    }
  }

  /** The page of a listening sheet. */
  static String listening(BlindCopies copies) {
    try {
      StringWriter text = new StringWriter();
      TEMPLATES
          .getTemplate("listening.ftlh")
          .process(
              Map.of(
                  "kind", copies.key().kind().id(),
                  "many", copies.loops().size() > 1,
                  "words", copies.key().question().words(),
                  "sheet", JSON.writeValueAsString(copies.forPage())),
              text);
      return text.toString();
    } catch (IOException | TemplateException e) {
      throw new IllegalStateException("the template of the listening sheet is broken", e);
    }
  }

  /**
   * The report as PDF, without sounds; the fonts are in it. The same report gives the same bytes.
   *
   * @throws IOException if it cannot be written
   */
  public static void pdf(Report report, OutputStream out) throws IOException {
    printed(page(report, true), report.date(), out);
  }

  /** A page as PDF; the same page gives the same bytes. */
  static void printed(String page, String day, OutputStream out) throws IOException {
    XRLog.setLoggingEnabled(false);
    PdfRendererBuilder builder = new PdfRendererBuilder();
    builder.withHtmlContent(PrintableText.of(page), null);
    builder.useSVGDrawer(new BatikSVGDrawer());
    builder.useFont(font("SourceSans3_400Regular"), "Sieve", 400, FontStyle.NORMAL, true);
    builder.useFont(font("SourceSans3_600SemiBold"), "Sieve", 600, FontStyle.NORMAL, true);
    builder.toStream(out);
    try (PdfBoxRenderer renderer = builder.buildPdfRenderer()) {
      renderer.createPDFWithoutClosing();
      var document = renderer.getPdfDocument();
      document.setDocumentId(0L);
      GregorianCalendar date = new GregorianCalendar(TimeZone.getTimeZone(ZoneOffset.UTC));
      date.setTimeInMillis(
          LocalDate.parse(day).atStartOfDay(ZoneOffset.UTC).toInstant().toEpochMilli());
      document.getDocumentInformation().setCreationDate(date);
      document.getDocumentInformation().setModificationDate(date);
      document.save(out);
      document.close();
    }
  }

  /**
   * A picture of the first printed page, to be looked at before it is saved.
   *
   * @param width pixels
   * @return PNG
   */
  public static byte[] picture(Report report, int width) {
    try {
      ByteArrayOutputStream pages = new ByteArrayOutputStream();
      pdf(report, pages);
      ByteArrayOutputStream picture = new ByteArrayOutputStream();
      try (PDDocument document = Loader.loadPDF(pages.toByteArray())) {
        float points = document.getPage(0).getMediaBox().getWidth();
        ImageIO.write(new PDFRenderer(document).renderImage(0, width / points), "png", picture);
      }
      return picture.toByteArray();
    } catch (IOException e) {
      throw new UncheckedIOException("writing to memory cannot fail", e);
    }
  }

  private static FSSupplier<InputStream> font(String name) {
    return () -> ReportPage.class.getResourceAsStream(FONTS + name + ".ttf");
  }
}
