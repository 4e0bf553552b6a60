using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace RootCall.Data.Migrations
{
    /// <inheritdoc />
    public partial class ProofFrames : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<double>(
                name: "delta_e_mean",
                table: "packages",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "delta_e_most",
                table: "packages",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "no_frames",
                table: "packages",
                type: "text",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "delta_e_mean",
                table: "packages");

            migrationBuilder.DropColumn(
                name: "delta_e_most",
                table: "packages");

            migrationBuilder.DropColumn(
                name: "no_frames",
                table: "packages");
        }
    }
}
