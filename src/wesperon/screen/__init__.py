"""What is shown: styled text, its layout, a difference of frames as ECMA-48. Pure. Imports highlight and below."""
