namespace RootCall.Core.Crossing.Models;

/// <summary>A shading model that materials are carried from and to.</summary>
internal interface ICrossedModel
{
    /// <summary>Id of the <see cref="Shading.ShadingModel"/>.</summary>
    string Id { get; }

    /// <summary>What a material looks like.</summary>
    Look Read(Source from, Sums sums);

    /// <summary>Says a look in this model's inputs. What of it nobody takes is lost.</summary>
    void Write(Look look, Target to, Sums sums);
}
