using System.Globalization;
using System.Text;
using RootCall.Core.Muster;

namespace RootCall.Testing.Trial;

/// <summary>Precision and recall by kind of break.</summary>
public sealed record TrialReport(IReadOnlyList<Outcome> Outcomes)
{
    /// <summary>References that Root Call settled alone, with the wrong file.</summary>
    public IEnumerable<Outcome> Wrong => Outcomes.Where(o => o.Found && !o.Right);

    /// <summary>Share of wrong ones among all that were settled alone, 0 to 1.</summary>
    public double WrongShare => (double)Wrong.Count() / Math.Max(1, Outcomes.Count(o => o.Found));

    /// <summary>Share of those settled rightly among all that have a right answer, 0 to 1.</summary>
    public double Recall => (double)Outcomes.Count(o => o.Right) / Math.Max(1, Outcomes.Count(o => o.Kind.CanBeFound()));

    public override string ToString()
    {
        var text = new StringBuilder();
        text.Append(
            CultureInfo.InvariantCulture,
            $"{"break", -18}{"cases", 8}{"settled", 9}{"right", 8}{"contested", 11}{"missing", 9}{"precision", 11}{"recall", 8}\n"
        );
        foreach (var kind in Outcomes.GroupBy(o => o.Kind).OrderBy(g => g.Key))
        {
            var (found, right) = (kind.Count(o => o.Found), kind.Count(o => o.Right));
            var precision = found == 0 ? "-" : ((double)right / found).ToString("0.0000", CultureInfo.InvariantCulture);
            var recall = kind.Key.CanBeFound() ? ((double)right / kind.Count()).ToString("0.000", CultureInfo.InvariantCulture) : "-";
            var contested = kind.Count(o => o.State == ReferenceState.Contested);
            var missing = kind.Count(o => o.State == ReferenceState.Missing);
            text.Append(
                CultureInfo.InvariantCulture,
                $"{kind.Key, -18}{kind.Count(), 8}{found, 9}{right, 8}{contested, 11}{missing, 9}{precision, 11}{recall, 8}\n"
            );
        }

        return text.Append(
                CultureInfo.InvariantCulture,
                $"all{Outcomes.Count, 23}{Outcomes.Count(o => o.Found), 9}{Outcomes.Count(o => o.Right), 8}; wrong choices "
                    + $"{WrongShare:0.0000%}, recall {Recall:0.000}\n"
            )
            .ToString();
    }
}
