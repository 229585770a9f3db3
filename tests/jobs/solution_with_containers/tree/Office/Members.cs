namespace Saltmarsh.Office {
  public static class Members {
    public static readonly string[] Names = { "Ada of the ferry", "Old Tamsin", "The twins" };
  }
}
