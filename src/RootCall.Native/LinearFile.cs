namespace RootCall.Native;

/// <summary>Files that keep linear values.</summary>
public enum LinearFile
{
    /// <summary>OpenEXR of 32-bit floats.</summary>
    Exr,

    /// <summary>RGBE: three numbers that share an exponent of 8 bits.</summary>
    Hdr,
}
