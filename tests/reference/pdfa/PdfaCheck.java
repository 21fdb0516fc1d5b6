import java.io.BufferedReader;
import java.io.FileInputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import org.verapdf.gf.foundry.VeraGreenfieldFoundryProvider;
import org.verapdf.pdfa.Foundries;
import org.verapdf.pdfa.PDFAParser;
import org.verapdf.pdfa.PDFAValidator;
import org.verapdf.pdfa.flavours.PDFAFlavour;
import org.verapdf.pdfa.results.TestAssertion;
import org.verapdf.pdfa.results.ValidationResult;

/** Reads a flavour and a file name from each line of standard input; answers with "ok" or the clauses that are broken. */
public final class PdfaCheck {
    public static void main(String[] args) throws Exception {
        VeraGreenfieldFoundryProvider.initialise();
        BufferedReader names = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
        for (String name = names.readLine(); name != null; name = names.readLine()) {
            int space = name.indexOf(' ');
            PDFAFlavour flavour = PDFAFlavour.byFlavourId(name.substring(0, space));
            System.out.println("PDFA " + check(name.substring(space + 1), flavour));
            System.out.flush();
        }
    }

    private static String check(String name, PDFAFlavour flavour) {
        try (PDFAParser parser = Foundries.defaultInstance().createParser(new FileInputStream(name), flavour);
             PDFAValidator validator = Foundries.defaultInstance().createValidator(flavour, 20, false, false, false)) {
            ValidationResult result = validator.validate(parser);
            if (result.isCompliant()) {
                return "ok";
            }
            StringBuilder broken = new StringBuilder("broken");
            for (TestAssertion assertion : result.getTestAssertions()) {
                broken.append(" | ").append(assertion.getRuleId().getClause()).append(' ')
                    .append(assertion.getMessage().replaceAll("\\s+", " "));
            }
            return broken.toString();
        } catch (Exception error) {
            return "unreadable | " + String.valueOf(error).replaceAll("\\s+", " ");
        }
    }
}
