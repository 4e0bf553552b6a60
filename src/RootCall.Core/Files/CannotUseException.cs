namespace RootCall.Core.Files;

/// <summary>
/// The input or the call cannot be used at all. The message is one sentence fit for a person: what is wrong, where,
/// and what was kept. The command line ends with status 2, the web answers with a problem document.
/// </summary>
public sealed class CannotUseException : Exception
{
    public CannotUseException(string message)
        : base(message) { }

    public CannotUseException(string message, Exception inner)
        : base(message, inner) { }

    public CannotUseException() { }
}
