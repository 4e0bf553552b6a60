using System.Numerics;

namespace RootCall.Core.Rendering.Lights;

/// <summary>A direction in which there is light.</summary>
/// <param name="Distance">To where it comes from; infinite from the environment.</param>
/// <param name="Light">Radiance; for what has no extent, what falls on a surface that faces it.</param>
/// <param name="Density">How likely it was picked, per steradian; for what has no extent, at all.</param>
/// <param name="IsFound">Whether a path may come across it by itself, too.</param>
public readonly record struct LightSample(Vector3 Direction, float Distance, Vector3 Light, float Density, bool IsFound);
