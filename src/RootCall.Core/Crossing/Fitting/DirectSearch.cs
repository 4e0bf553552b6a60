namespace RootCall.Core.Crossing.Fitting;

/// <summary>
/// Finds where a function is least without asking for its slope: tries each axis in turn, leaps on along what that found, and halves its
/// steps when nothing near is better. What was published as direct search (“‘Direct Search’ Solution of Numerical and Statistical
/// Problems”, Journal of the ACM 8(2), 1961), with all places cut at the sides of a unit cube. The same start gives the same end. It
/// may stay in a hollow that is not the deepest.
/// </summary>
public static class DirectSearch
{
    /// <param name="of">Of a place in the unit cube.</param>
    /// <param name="start">In the unit cube.</param>
    /// <param name="step">Of the first tries.</param>
    /// <param name="least">A step below this is not tried any more.</param>
    /// <param name="most">How often the function is asked, at most.</param>
    public static (double[] At, double Value) Least(Func<double[], double> of, double[] start, double step, double least, int most)
    {
        var asked = 0;
        double Ask(double[] at)
        {
            asked++;
            return of(at);
        }

        var (best, value) = (start, Ask(start));
        while (step >= least && asked < most)
        {
            var (found, there) = Explore(Ask, best, value, step, () => asked < most);
            if (there >= value)
            {
                step /= 2;
                continue;
            }

            // What led here may lead on.
            while (there < value && asked < most)
            {
                var leap = best.Zip(found, (from, to) => Math.Clamp(to + (to - from), 0, 1)).ToArray();
                (best, value) = (found, there);
                (found, there) = Explore(Ask, leap, Ask(leap), step, () => asked < most);
            }

            if (there < value)
                (best, value) = (found, there);
        }

        return (best, value);
    }

    private static (double[] At, double Value) Explore(
        Func<double[], double> ask,
        double[] from,
        double value,
        double step,
        Func<bool> goOn
    )
    {
        var at = from.ToArray();
        for (var axis = 0; axis < at.Length && goOn(); axis++)
        {
            var stood = at[axis];
            foreach (var tried in (double[])[stood + step, stood - step])
            {
                at[axis] = Math.Clamp(tried, 0, 1);
                if (at[axis] == stood || !goOn())
                    continue;
                if (ask(at) is var there && there < value)
                {
                    value = there;
                    stood = at[axis];
                    break;
                }
            }

            at[axis] = stood;
        }

        return (at, value);
    }
}
