namespace RootCall.Core.Muster;

/// <summary>Keeps small pictures of images, for people to look at.</summary>
public interface IPictureStore
{
    /// <summary>Pixels along the longer side of a picture that is kept.</summary>
    const int Side = 256;

    /// <param name="png">The picture of that state of the file.</param>
    void Put(FileState file, byte[] png);

    /// <summary>A file that holds the same bytes as one whose picture is kept gets that picture.</summary>
    void Share(FileState known, FileState file);
}
