// SPDX-License-Identifier: GPL-3.0-or-later
// The Marl Quay ferry house, reading room: an invented place, rendered as scene-linear radiance.
// Part chooses what is rendered (render.sh calls it once for each):
//   0 the room and the view, without anything that moves   1, 2 a walker on the jetty   3 the sail
//   4 the creeper   5 the view alone (water at another moment)   6 where the view shows (white)   7 where the lake lies (white)
// Frame=n moves what Part shows; random placement stays fixed.
#version 3.7;
#include "functions.inc"
#include "transforms.inc"
#ifndef(Part) #declare Part=0; #end
#declare Room=(Part=0|Part=6);
#declare View=(Part=0|Part=5|Part=7);
#declare Lit=(Part<6);
#ifndef(Frame) #declare Frame=0; #end
#ifndef(Q) #declare Q=1; #end   // radiosity quality
#ifndef(QL) #declare QL=Q; #end // area-light quality
#ifndef(CamShift) #declare CamShift=<0,0,0>; #end
#ifndef(Ripple) #declare Ripple=1; #end
#declare R=seed(4711);
#macro rr(a,b) (a+(b-a)*rand(R)) #end
#include "../common.inc"

global_settings{
  assumed_gamma 1.0
  max_trace_level 7
  adc_bailout 0.0002
#if(Part>0) #declare NoRad=1; #end
#ifndef(NoRad)
  radiosity{
    pretrace_start 0.08 pretrace_end (Q>0?0.01:0.02)
    count (Q>0?260:100)
    nearest_count 12
    error_bound (Q>0?0.4:0.7)
    low_error_factor 0.6
    recursion_limit 2
    minimum_reuse 0.01
    gray_threshold 0
    brightness 1
    adc_bailout 0.001
    always_sample off
  }
#end
}
#default{ finish{ ambient 0 emission 0.03 diffuse 1 } }

// ---------------------------------------------------------------- light levels
#declare SkyCol = <0.36,0.58,1.0>;
#declare SkyL   = 9;
#declare SunC   = <1.0,0.84,0.62>*62;
#declare SunEl  = 21; #declare SunAz = 13;
#declare SunDir = <sin(radians(SunAz))*cos(radians(SunEl)), sin(radians(SunEl)), cos(radians(SunAz))*cos(radians(SunEl))>;

camera{ location <-0.35,1.45,-3.4>+CamShift right x*1.5 up y angle 66 look_at <0.02,1.14,3>+CamShift }

#if(Lit)
light_source{ SunDir*5000 rgb SunC parallel point_at 0
  area_light x*40,y*40,(QL>0?4:3),(QL>0?4:3) adaptive 1 jitter circular orient }
#end

// window geometry
#declare WX0=-1.75; #declare WX1=1.95; #declare WY0=0.62; #declare WY1=2.78; #declare WZ=3;

// sky portal (inside face of window), emits as cosine lobe
#declare PortalC = <0.62,0.78,1.0>*SkyL*1.5*((WX1-WX0)*(WY1-WY0))/(2*pi);
#if(Room & Lit)
light_source{ <(WX0+WX1)/2,(WY0+WY1)/2,WZ+0.0> rgb PortalC
  spotlight point_at <(WX0+WX1)/2,(WY0+WY1)/2-0.25,WZ-1> radius 0 falloff 89.9 tightness 1
  area_light x*(WX1-WX0)*0.9, y*(WY1-WY0)*0.9, (QL>0?5:4),(QL>0?4:3) area_illumination on
  fade_distance 1 fade_power 2 }
// faint fill from a half-open door behind the camera
light_source{ <1.9,1.2,-4.4> rgb <0.7,0.85,1>*0.8
  spotlight point_at <0.6,0.9,0> radius 0 falloff 89 tightness 1
  area_light x*0.5,y*1.8,2,3 area_illumination on fade_distance 1 fade_power 2 }
#end

// ---------------------------------------------------------------- textures

// ---------------------------------------------------------------- shell
#if(Room)
// light-tight outer skin
difference{ box{<-2.98,-0.3,-4.7>,<2.98,4.9,3.2>} 
  prism{ linear_sweep linear_spline -4.6,3.05,6 <-2.88,-0.2>,<2.88,-0.2>,<2.88,2.92>,<0,4.42>,<-2.88,2.92>,<-2.88,-0.2> rotate -90*x scale<1,1,-1> }
  box{<WX0-0.03,WY0-0.03,2>,<WX1+0.03,WY1+0.03,4>} texture{Black} }

// floor
#local X=-2.9; #while(X<2.9) #local w=rr(0.125,0.165); #local z0=-4.6-rr(0,1.5);
  #while(z0<3.1) #local l=rr(1.8,3.2); object{Board(w-0.004,0.04,l-0.004,FloorD,FloorL,0.35) rotate z*rr(-0.25,0.25) translate <X+w/2,-0.02+rr(-0.0012,0.0012),z0+l/2>} 
    #local n=0; #while(n<2) cylinder{<X+w*(0.22+0.56*n),-0.01,z0+0.04>,<X+w*(0.22+0.56*n),0.0012,z0+0.04>,0.005 pigment{rgb 0.02} finish{specular 0.6 roughness 0.01}} #local n=n+1; #end
    #local z0=z0+l; #end
  #local X=X+w; #end
box{<-2.9,-0.2,-4.6>,<2.9,-0.045,3.1> texture{Black}}

// window wall: vertical planks
#local X=-2.9; #while(X<2.9) #local w=0.145;
  #if(X+w<WX0+0.02 | X>WX1-0.02) object{Board(w-0.003,0.03,5,WallD,WallL,0.12) rotate x*90 translate <X+w/2,2,WZ-0.005+rr(0,0.006)>}
  #else
    object{Board(w-0.003,0.03,WY0+0.1,WallD,WallL,0.12) rotate x*90 translate <X+w/2,WY0/2-0.06,WZ-0.005+rr(0,0.006)>}
    object{Board(w-0.003,0.03,2.0,WallD,WallL,0.12) rotate x*90 translate <X+w/2,WY1+1.0,WZ-0.005+rr(0,0.006)>}
  #end #local X=X+w; #end
// back wall
box{<-2.9,0,-4.6>,<2.9,4.5,-4.55> pigment{rgb WallL*0.5}}
// side walls: horizontal planks
#local Y=0; #while(Y<2.95) #local h=0.178;
  object{Board(h-0.004,0.03,4.0,WallD,WallL,0.12) rotate z*90 translate <-2.84+rr(0,0.006),Y+h/2,1.1>}
  object{Board(h-0.004,0.03,3.8,WallD,WallL,0.12) rotate z*90 translate <-2.84+rr(0,0.006),Y+h/2,-2.82>}
  object{Board(h-0.004,0.03,4.4,WallD,WallL,0.12) rotate z*90 translate <2.84-rr(0,0.006),Y+h/2,0.9>}
  object{Board(h-0.004,0.03,3.8,WallD,WallL,0.12) rotate z*90 translate <2.84-rr(0,0.006),Y+h/2,-3.22>}
  #local Y=Y+h; #end
// studs on the side walls
#local Z=-3.9; #while(Z<3) object{Board(0.09,0.07,3,BeamD,BeamL,0.1) rotate x*90 translate <-2.78,1.5,Z>} object{Board(0.09,0.07,3,BeamD,BeamL,0.1) rotate x*90 translate <2.78,1.5,Z>} #local Z=Z+1.7; #end
// roof boards + rafters + tie beams
#local s=0; #while(s<2) #local sg=1-2*s; #local D=0; #while(D<3.3) 
  object{Board(0.155,0.03,4.2,WallD,WallL,0.1) rotate z*(-27.5*sg) translate <sg*D*cos(radians(27.5)),4.33-D*sin(radians(27.5)),1.0>}
  object{Board(0.155,0.03,4.2,WallD,WallL,0.1) rotate z*(-27.5*sg) translate <sg*D*cos(radians(27.5)),4.33-D*sin(radians(27.5)),-3.2>}
  #local D=D+0.16; #end
  #local Z=-4; #while(Z<3.1) object{Board(0.08,0.13,3.3,BeamD,BeamL,0.1) rotate y*90 rotate z*(-27.5*sg) translate <sg*1.45,4.33-0.1-0.755,Z>} #local Z=Z+1.13; #end
 #local s=s+1; #end
#local Z=-2.2; #while(Z<3) object{Board(0.15,0.17,5.7,BeamD,BeamL,0.15) rotate y*90 translate <0,2.92,Z>} #local Z=Z+2.05; #end
object{Board(0.12,0.12,5.7,BeamD,BeamL,0.15) rotate y*90 translate <0,2.93,2.9>}
// skirting
object{Board(0.03,0.14,5.7,BeamD,BeamL,0.15) rotate y*90 translate <0,0.07,2.96>}

// window frame, muntins, sill
#declare FrD=<0.10,0.085,0.065>; #declare FrL=<0.30,0.26,0.20>;
#macro VB(X,W,T) object{Board(W,T,WY1-WY0+0.1,FrD,FrL,0.15) rotate x*90 translate <X,(WY0+WY1)/2,WZ-0.01>} #end
#macro HB(Y,W,T) object{Board(T,W,WX1-WX0+0.26,FrD,FrL,0.15) rotate y*90 translate <(WX0+WX1)/2,Y,WZ-0.012>} #end
VB(WX0-0.05,0.12,0.12) VB(WX1+0.05,0.12,0.12)
VB(WX0+(WX1-WX0)/3,0.085,0.09) VB(WX0+(WX1-WX0)*2/3,0.085,0.09)
#local i=0; #while(i<3) VB(WX0+(WX1-WX0)*(i*2+1)/6,0.03,0.045) #local i=i+1; #end
HB(WY1+0.05,0.13,0.12)
#local i=1; #while(i<4) HB(WY0+(WY1-WY0)*i/4,0.03,0.04) #local i=i+1; #end
object{Board(0.26,0.045,WX1-WX0+0.34,FrD,FrL,0.3) rotate y*90 translate <(WX0+WX1)/2,WY0-0.03,WZ-0.1>}

// ---------------------------------------------------------------- curtain (moves)
#macro Curtain(X0,X1,Ph,Amp,Tie)
 #local NU=70; #local NV=36;
 mesh2{ vertex_vectors{ (NU+1)*(NV+1)
  #for(j,0,NV) #for(i,0,NU) #local uu=i/NU; #local vv=j/NV;
   , <X0+(X1-X0)*(uu+(0.5-uu)*Tie*exp(-pow((vv-0.45)/0.16,2))*0.62)+Amp*0.35*vv*sin(vv*3+Ph), 2.84-vv*2.42, 2.80+0.035*sin(uu*40+1.5*sin(vv*2+Ph))*(0.5+0.5*vv)+0.015*sin(uu*17+vv*4)-Amp*vv*vv*(0.6+0.4*sin(uu*5+Ph))> #end #end }
  face_indices{ NU*NV*2 #for(j,0,NV-1) #for(i,0,NU-1) #local a=j*(NU+1)+i; ,<a,a+1,a+NU+1>,<a+1,a+NU+2,a+NU+1> #end #end }
  texture{ pigment{ average pigment_map{ [1 gradient x color_map{[0 rgb <.72,.66,.54>][.5 rgb<.80,.75,.64>][1 rgb <.72,.66,.54>]} scale 0.004] [1 gradient y color_map{[0 rgb <.74,.68,.56>][.5 rgb<.82,.77,.66>][1 rgb <.74,.68,.56>]} scale 0.004] [1 bozo color_map{[0 rgb<.66,.58,.46>][1 rgb<.8,.74,.62>]} scale 0.12]}} finish{diffuse 0.45,0.42} }
 }
#end
object{ Curtain(WX0-0.28,WX0+0.16,0,0.03,0.0) no_radiosity }
object{ Curtain(WX1-0.12,WX1+0.28,1,0.02,0.0) no_radiosity }
cylinder{<WX0-0.4,2.86,2.80>,<WX1+0.4,2.86,2.80>,0.014 pigment{rgb<.25,.16,.06>} finish{diffuse .6 specular .8 roughness .02 reflection .2}}

// ---------------------------------------------------------------- table, books, jug
#declare TX=0.78; #declare TZ=1.35; #declare TH=0.76;
union{
 #local i=0; #while(i<6) object{Board(0.148,0.032,1.75,FurnD,FurnL,0.55) rotate y*90 translate <0,TH-0.016,-0.375+0.15*i>} #local i=i+1; #end
 #local i=0; #while(i<2) #local j=0; #while(j<2) object{Board(0.075,0.075,TH-0.03,FurnD*.8,FurnL*.8,0.4) rotate x*90 translate <-0.76+1.52*i,(TH-0.03)/2,-0.34+0.68*j>} #local j=j+1; #end
   object{Board(0.025,0.1,0.68,FurnD*.8,FurnL*.8,0.4) translate <-0.76+1.52*i,TH-0.085,0>}
   object{Board(0.025,0.1,1.5,FurnD*.8,FurnL*.8,0.4) rotate y*90 translate <0,TH-0.085,-0.35+0.70*i>} #local i=i+1; #end
 rotate y*-4 translate <TX,0,TZ> }

#declare PagesT=texture{ pigment{ gradient y color_map{[0 rgb<.74,.66,.50>][.5 rgb<.58,.50,.36>][1 rgb<.76,.68,.52>]} turbulence 0.02 scale 0.0016 } finish{diffuse .95}};
#macro Cloth(C) texture{ pigment{ granite color_map{[0 rgb C*0.65][.5 rgb C][1 rgb C*1.2]} scale 0.05 translate rr(-5,5)} normal{quilted 0.25 scale 0.0018} finish{diffuse 0.9 specular 0.12 roughness 0.08}} #end
// lying book: w (x), t (y), d (z), spine at -x... origin at bottom centre
#macro Book(W,T,D,C)
 union{ union{
  box{<-W/2,0,-D/2>,<W/2,0.004,D/2>} box{<-W/2,T-0.004,-D/2>,<W/2,T,D/2>}
  intersection{ cylinder{<0,T/2,-D/2>,<0,T/2,D/2>,T/2 scale<0.35,1,1> translate x*(-W/2)} box{<-1,0,-1>,<-W/2+0.002,1,1>} }
  Cloth(C) }
  box{<-W/2+0.001,0.004,-D/2+0.005>,<W/2-0.006,T-0.004,D/2-0.005> texture{PagesT}}
  #if(rand(R)<0.35) box{<-W/2-T*0.178,T*0.22,-D*0.16>,<-W/2-T*0.10,T*0.78,-D*0.02> pigment{rgb<.46,.42,.33>} finish{diffuse .9} } #end
  #local g=0; #while(g<3) intersection{ cylinder{<0,T/2,-D/2>,<0,T/2,D/2>,T/2+0.0006 scale<0.35,1,1> translate x*(-W/2)} box{<-1,0.001,-0.003>,<-W/2-0.0005,T-0.001,0.003>} translate z*(-D/2+D*(0.14+0.1*g+(g=2?0.5:0))) texture{pigment{rgb<.55,.38,.12>} finish{diffuse .6 specular .7 roughness .03}} } #local g=g+1; #end
 }
#end
#declare BC=array[9]{<.16,.040,.030>,<.035,.062,.042>,<.040,.052,.095>,<.16,.095,.042>,<.085,.038,.045>,<.26,.215,.14>,<.055,.050,.045>,<.038,.078,.085>,<.21,.130,.045>};
#macro Stack(PX,PZ,N,Base) #local y0=TH; #local i=0; #while(i<N) #local tt=rr(0.028,0.055); object{Book(rr(.15,.19),tt,rr(.22,.27),BC[mod(Base+i*2,9)]) rotate y*(rr(-14,14)+90) translate <PX+rr(-.01,.01),y0,PZ>} #local y0=y0+tt; #local i=i+1; #end #end
Stack(TX+0.48,TZ+0.08,5,0)
Stack(TX-0.55,TZ+0.16,3,4)
// open book
#macro Leaf(sg) #local NU=14; mesh2{ vertex_vectors{ (NU+1)*2 #for(i,0,NU) #local uu=i/NU; ,<sg*uu*0.165, 0.012+0.020*sin(uu*pi*0.92)*(1-0.55*uu),-0.12>,<sg*uu*0.165,0.012+0.020*sin(uu*pi*0.92)*(1-0.55*uu),0.12> #end }
  face_indices{ NU*2 #for(i,0,NU-1) ,<2*i,2*i+1,2*i+2>,<2*i+1,2*i+3,2*i+2> #end }
  texture{ pigment{ gradient z color_map{[0 rgb<.80,.74,.60>][.55 rgb<.80,.74,.60>][.56 rgb<.28,.25,.2>][.8 rgb<.28,.25,.2>][.81 rgb<.80,.74,.60>]} warp{turbulence <0.0,0,0.0>} scale 0.0088 } finish{diffuse 0.95} } } #end
union{ Leaf(1) Leaf(-1) box{<-.172,0,-.126>,<.172,.006,.126> Cloth(<.2,.03,.02>)} box{<-.16,.006,-.118>,<.16,.012,.118> texture{PagesT}} rotate y*12 translate <TX-0.12,TH,TZ-0.14> }
// jug: glazed stoneware
#declare JugT=texture{ pigment{ gradient y color_map{[0 rgb<.25,.16,.09>][.28 rgb<.30,.19,.10>][.36 rgb<.10,.20,.27>][.72 rgb<.13,.27,.34>][1 rgb<.5,.5,.43>]} turbulence 0.06 scale 0.30}
  normal{ wrinkles 0.15 scale <0.06,0.012,0.06> } finish{diffuse .85 specular 1.2 roughness 0.004 reflection{0.02,0.5 fresnel on} conserve_energy} }
union{
 lathe{ cubic_spline 13, <0.02,-.01>,<0.062,0>,<0.082,.03>,<0.105,.09>,<0.103,.14>,<0.075,.20>,<0.052,.235>,<0.056,.27>,<0.068,.295>,<0.062,.295>,<0.048,.25>,<0.045,.2>,<0.04,.15> }
 torus{0.055,0.0105 scale <1,1,1> rotate x*90 scale<0.85,1.25,1> translate<0.115,.185,0> }
 texture{JugT} interior{ior 1.5} rotate y*-35 translate <TX+0.10,TH,TZ+0.16> }
// dried twigs in jug
#local i=0; #while(i<16) #local a=rr(0,360); #local tt=rr(6,24);
 union{ #local q=0; #while(q<7) #local h0=0.2+q*0.045; cylinder{<0.01*sin(q*1.3+i),h0,0>,<0.01*sin((q+1)*1.3+i),h0+0.045,0>,0.0016} 
   #if(q>1) sphere{<0,0,0>,0.011 scale<0.55,1.5,0.2> rotate z*rr(20,80) translate <0.014+0.01*sin(q*1.3+i),h0,0> rotate y*0 } sphere{<0,0,0>,0.011 scale<0.55,1.5,0.2> rotate z*rr(-80,-20) translate <-0.014+0.01*sin(q*1.3+i),h0+.02,0>} #end #local q=q+1; #end
   pigment{rgb <.30,.20,.09>*rr(.6,1.3)} finish{diffuse .6,.4} rotate z*tt rotate y*a translate <TX+0.10,TH+0.03,TZ+0.16> } #local i=i+1; #end
// mug
difference{ cylinder{0,y*0.09,0.042} cylinder{y*0.008,y*0.1,0.038} texture{pigment{granite color_map{[0 rgb<.42,.38,.3>][1 rgb<.6,.57,.5>]} scale .02} finish{diffuse .9 specular .8 roughness .006 reflection{0.02,0.4 fresnel on}}} interior{ior 1.5} translate <TX+0.33,TH,TZ-0.24> }

// ---------------------------------------------------------------- chair
union{
 object{ superellipsoid{<0.5,0.25> scale<.22,.21,.02>} rotate x*90 translate y*0.45 WoodTex(FurnD,FurnL,0.03,0.5) }
 union{
 Stick(<-.16,.44,-.15>,<-.20,0,-.19>,.019,.013) Stick(<.16,.44,-.15>,<.20,0,-.19>,.019,.013)
 Stick(<-.15,.44,.15>,<-.19,0,.20>,.019,.013) Stick(<.15,.44,.15>,<.19,0,.20>,.019,.013)
 Stick(<-.185,.2,-.17>,<-.17,.2,.18>,.010,.010) Stick(<.185,.2,-.17>,<.17,.2,.18>,.010,.010) Stick(<-.178,.2,0>,<.178,.2,0>,.010,.010)
 #local i=0; #while(i<7) #local a=(i-3)*0.058; Stick(<a,.45,.16>,<a*1.25,.92,.25>,.009,.007) #local i=i+1; #end
 Stick(<-.19,.45,.15>,<-.24,.96,.245>,.015,.012) Stick(<.19,.45,.15>,<.24,.96,.245>,.015,.012)
 #local i=0; #while(i<16) #local a=-0.25+0.5*i/16; sphere_sweep{linear_spline 2 <a,.95-.25*a*a,.25>,.024 <a+0.5/16,.95-.25*(a+.5/16)*(a+.5/16),.25>,.024} #local i=i+1; #end
 WoodTex(FurnD,FurnL,0.03,0.5) }
 rotate y*(-62) translate <-0.42,0,0.98> }

// rug
box{<-0.95,0,-0.62>,<0.95,0.009,0.62>
 texture{ pigment{ gradient x pigment_map{
   [0.05 checker rgb<.11,.04,.03> rgb<.045,.046,.062> scale 0.012][0.05 rgb<.3,.23,.13>][0.075 rgb<.3,.23,.13>]
   [0.075 hexagon rgb<.125,.040,.032> rgb<.088,.030,.026> rgb<.050,.048,.066> scale 0.016 ][0.925 hexagon rgb<.125,.040,.032> rgb<.088,.030,.026> rgb<.050,.048,.066> scale 0.016 ]
   [0.925 rgb<.3,.23,.13>][0.95 rgb<.3,.23,.13>][0.95 checker rgb<.11,.04,.03> rgb<.045,.046,.062> scale 0.012] } translate -0.5 scale 1.9 }
   normal{ average normal_map{[1 ripples 0.3 scale 0.006][1 bumps 0.9 scale 0.004]} } finish{diffuse .95} }
 rotate y*7 translate <-0.75,0.0,0.35> }

// ---------------------------------------------------------------- bookcase on the left wall
union{
 #local Yb=array[6]{0.12,0.47,0.82,1.17,1.52,1.87};
 #for(i,0,5) object{Board(0.28,0.026,2.3,BeamD,BeamL*1.2,0.25) translate <-2.66,Yb[i],1.5>} #end
 object{Board(0.28,0.03,1.95,BeamD,BeamL*1.2,0.25) rotate x*90 translate <-2.66,0.95,0.35>}
 object{Board(0.28,0.03,1.95,BeamD,BeamL*1.2,0.25) rotate x*90 translate <-2.66,0.95,1.5>}
 object{Board(0.28,0.03,1.95,BeamD,BeamL*1.2,0.25) rotate x*90 translate <-2.66,0.95,2.65>}
 #for(i,0,4) #for(b,0,1) #local z0=0.38+b*1.15; #local zend=z0+1.07-(rr(0,1)<0.6?rr(0.1,0.4):0);
  #while(z0<zend) #local tt=rr(0.018,0.048); #local h=rr(0.19,0.28); #local d=rr(0.14,0.19); #local cc=BC[floor(rr(0,8.99))]*rr(0.6,1.3);
   object{Book(d,tt,h,cc) rotate z*180 rotate y*0 rotate <90,0,0> rotate y*0 translate <0,h/2,tt/2> rotate x*(rr(0,1)<0.1?rr(2,7):0) translate <-2.53-d/2+rr(-.02,.01),Yb[i]+0.013,z0>}
   #local z0=z0+tt+0.0012; #end
 #end #end
}

// ---------------------------------------------------------------- wall things
// life ring
union{ torus{0.24,0.062 rotate x*90 texture{ radial texture_map{[0.5 pigment{rgb<.62,.60,.54>} normal{bozo .3 scale .01} finish{diffuse .95}][0.5 pigment{granite color_map{[0 rgb<.30,.025,.015>][1 rgb<.42,.05,.03>]} scale .05} normal{bozo .3 scale .01} finish{diffuse .95}]} frequency 4 rotate x*90 rotate z*22 } }
 #for(i,0,3) torus{0.072,0.008 rotate z*0 rotate x*0 translate x*0.24 rotate z*(90*i+45) pigment{rgb<.5,.42,.27>} finish{diffuse .9}} #end
 translate <-2.27,1.50,2.88> }
// oars in the right corner
object{Oar() rotate <0,30,0> rotate <8,0,6> translate <2.70,0.02,2.25>}
object{Oar() rotate <0,60,0> rotate <9,0,2> translate <2.66,0.02,1.95>}
// framed chart on the right wall
union{
 object{Board(0.045,0.03,1.05,FurnD*.6,FurnL*.6,.4) rotate z*90 translate <2.73,1.92,1.2>} object{Board(0.045,0.03,1.05,FurnD*.6,FurnL*.6,.4) rotate z*90 translate <2.73,1.22,1.2>}
 object{Board(0.045,0.03,0.74,FurnD*.6,FurnL*.6,.4) rotate z*90 rotate x*90 translate <2.73,1.57,0.68>} object{Board(0.045,0.03,0.74,FurnD*.6,FurnL*.6,.4) rotate z*90 rotate x*90 translate <2.73,1.57,1.72>}
 box{<2.745,1.22,0.68>,<2.75,1.92,1.72> texture{ pigment{ wrinkles color_map{[0 rgb<.26,.36,.38>][.40 rgb<.34,.44,.43>][.405 rgb<.12,.09,.05>][.42 rgb<.12,.09,.05>][.425 rgb<.56,.48,.32>][.55 rgb<.52,.46,.28>][.552 rgb<.3,.22,.12>][.56 rgb<.54,.47,.3>][.68 rgb<.46,.42,.24>][.682 rgb<.3,.22,.12>][1 rgb<.40,.38,.2>]} scale 0.42} finish{diffuse .95}} }
}
// rope coil left of the window
#for(i,0,11) torus{rr(.105,.17),0.012 rotate x*90 rotate <rr(-6,6),rr(-6,6),0> scale<1,1.25,1> translate <2.36+rr(-.012,.012),1.66+rr(-.02,.02),2.93-0.012*i*0.6> texture{pigment{rgb<.42,.32,.17>*rr(.7,1.1)} normal{gradient y 1 scale .012 rotate z*40} finish{diffuse .9}}} #end
cylinder{<2.36,1.83,2.8>,<2.36,1.83,3>,.014 WoodTex(FurnD,FurnL,.02,.3)}

// ---------------------------------------------------------------- lantern
#declare LX=-1.62; #declare LY=2.02; #declare LZ=1.25;
#declare Brass=texture{pigment{granite color_map{[0 rgb<.20,.13,.045>][1 rgb<.36,.24,.08>]} scale .03} finish{diffuse .45 specular 1 roughness .015 metallic reflection{.25 metallic} conserve_energy}};
union{
 cylinder{<0,-.13,0>,<0,-.10,0>,.085} cone{<0,.13,0>,.088,<0,.19,0>,.035} cylinder{<0,.19,0>,<0,.225,0>,.03} torus{.085,.006 translate y*-.10} torus{.088,.006 translate y*.13}
 #for(i,0,5) cylinder{<.083,-.11,0>,<.083,.13,0>,.004 rotate y*(60*i+15)} #end
 torus{.045,.004 rotate x*90 translate y*.265} 
 #for(i,0,15) torus{.011,.0028 rotate x*90 scale<.75,1.3,1> rotate y*90*i translate y*(.32+.021*i)} #end
 texture{Brass} translate <LX,LY,LZ> no_radiosity }
cylinder{<LX,LY+.62,LZ>,<LX,2.9,LZ>,.004 pigment{rgb .02}}
// beam to hang it from
object{Board(0.10,0.12,5.7,BeamD,BeamL,0.15) rotate y*90 translate <0,2.86,LZ>}
// flame / mantle
#if(Lit)
sphere{0,1 scale<.020,.045,.020> translate <LX,LY+0.0,LZ> pigment{rgb <1,.60,.22>*260} finish{diffuse 0 emission 1} no_shadow no_radiosity}
#end
difference{cylinder{<LX,LY-.10,LZ>,<LX,LY+.125,LZ>,.078} cylinder{<LX,LY-.11,LZ>,<LX,LY+.13,LZ>,.076} pigment{rgbt<.9,.9,.85,.93>} finish{diffuse .15 specular 1 roughness .003 reflection{.02,.4 fresnel on}} interior{ior 1.05} no_shadow no_radiosity}
#if(Lit)
light_source{<LX,LY+.0,LZ> rgb <1,.50,.17>*7.5 fade_distance 0.5 fade_power 2 area_light x*.07,y*.07,3,3 adaptive 1 jitter orient circular}
#end
#end // Room

// ================================================================ OUTSIDE (invisible to radiosity; skylight as emission)
#declare LakeY=-1.25;
#if(Part=6) // stands in the window opening and shines
box{<WX0-0.6,WY0-0.5,WZ+1.5>,<WX1+0.6,WY1+0.6,WZ+1.52> pigment{rgb 1} finish{diffuse 0 emission 100} no_reflection no_shadow no_radiosity}
#end
#if(View)
// sky dome
#declare SkyP=pigment{ function{ y/9500 } color_map{ [0.0 rgb <.92,.96,1.0>*9.5][0.06 rgb <.78,.89,1.0>*9][0.16 rgb<.50,.71,1.0>*8][0.35 rgb SkyCol*7][1 rgb SkyCol*4.5] } };
#declare SDx=SunDir.x; #declare SDy=SunDir.y; #declare SDz=SunDir.z;
#declare GlowF=function(x,y,z){ pow(max(0,(x*SDx+y*SDy+z*SDz)/9500),60) };
#declare CloudWarp=<Frame*0.012,0,0>;
sphere{0,9500 hollow no_shadow no_radiosity
 texture{ pigment{SkyP} finish{diffuse 0 emission 1} }
 texture{ pigment{ function{GlowF(x,y,z)} color_map{[0 rgbt<1,.9,.75,1>*1][0 rgbt<18,15,11,1>][1 rgbt<60,48,34,0>]} } finish{diffuse 0 emission 1} }
 // cloud body
 texture{ pigment{ granite turbulence 0.38 octaves 7 omega 0.52 lambda 2.15 color_map{[0.0 rgbt<22,21,20.5,1>][0.38 rgbt<22,21.5,21,1>][0.47 rgbt<25,24,23,0.60>][0.55 rgbt<33,31,28.5,0.12>][0.60 rgbt<30,28.7,27,0>][0.70 rgbt<21,20.8,21,0>][0.85 rgbt<14,14.5,16,0>][1 rgbt<11,11.8,13.5,0>]} scale <0.58,0.30,0.58> translate <0.31,0.09,0.2>+CloudWarp scale 9500 } finish{diffuse 0 emission 1} }
}
// sun disc (mostly for glints)
sphere{SunDir*9300,150 pigment{rgb<1,.86,.66>*32000} finish{diffuse 0 emission 1} no_shadow no_radiosity no_reflection}

// terrain
#declare Th1=function(x,y){ min(1,max(0,(0.15+0.85*f_noise3d(x*7+3.3,y*3,1.7)*0.8+0.25*f_noise3d(x*22,y*9,5.1))*min(1,y*4)*(0.45+0.75*abs(x-0.5))))}
#declare H1=object{ HF(Th1,420) scale<1900,62,700> translate<-950,LakeY-1.0,720> };
object{H1 texture{ pigment{granite color_map{[0 rgb<.03,.05,.015>][.5 rgb<.07,.10,.03>][1 rgb<.13,.13,.05>]} scale 60} normal{granite 0.8 scale 20} OutFin(0.8,5)} Haze(.13,<5.5,6.4,7.8>) no_radiosity}
#declare Th2=function(x,y){ min(1,max(0,(0.2+0.9*f_noise3d(x*6+8.1,y*3,9.7)*0.8+0.18*f_noise3d(x*25,y*9,5.1)+0.05*f_noise3d(x*90,y*40,5.1))*min(1,y*3)))}
object{ HF(Th2,500) scale<5200,235,1700> translate<-2600,LakeY-2,1700> texture{pigment{granite color_map{[0 rgb<.04,.06,.02>][1 rgb<.12,.13,.06>]} scale 90} normal{granite 1 scale 40} OutFin(.8,5)} Haze(.42,<5.6,6.9,8.8>) no_radiosity }
#declare Th3=function(x,y){ min(1,max(0,(0.15+1.0*f_ridged_mf(x*3.1+2.2,y*1.5,4.2,0.9,2.1,6,0.9,2,2)*0.33+0.25*f_noise3d(x*5,y*3,2))*min(1,y*2.5)))}
object{ HF(Th3,600) scale<9000,760,2600> translate<-4500,LakeY-5,4300> texture{pigment{granite color_map{[0 rgb<.10,.10,.09>][1 rgb<.3,.29,.27>]} scale 200} normal{granite 1.2 scale 90} OutFin(.8,5)} Haze(.70,<6.0,7.3,9.2>) no_radiosity }

// spruces on the far shore
#declare Sp=array[3]; #for(i,0,2) #declare Sp[i]=Spruce(i+5); #end
#local n=0; #while(n<2600) #local px=rr(-480,620); #local pz=735+pow(rr(0,1),1.7)*420; #local Nn=<0,0,0>; #local hit=trace(H1,<px,900,pz>,-y,Nn);
 #if(vlength(Nn)>0 & hit.y>LakeY+0.3) #local hh=6+16*pow(rr(0,1),1.3); #local g=rr(.6,1.4);
  object{Sp[mod(n,3)] scale<hh*1.05,hh,hh*1.05> rotate y*rr(0,360) translate hit-y*0.6 texture{pigment{rgb<.030+.03*g*g*.5,.052,.02>*g} OutFin(.9,5)} Haze(.11,<5.5,6.4,7.8>) no_radiosity no_shadow} #end #local n=n+1; #end

#end // View
// lake
#if(Part=7)
plane{y,LakeY pigment{rgb 1} finish{diffuse 0 emission 60000}}
#end
#if(Part=0|Part=5)
plane{y,LakeY texture{ pigment{rgb<.012,.035,.038>} 
  normal{ average normal_map{ [1.2 bumps 0.46*Ripple scale <1.1,1,0.55> translate <Frame*0.17,0,Frame*0.11>][1 bumps 0.40*Ripple scale <.33,1,.2> translate <-Frame*0.13,0,Frame*0.21>][1 bumps 0.3*Ripple scale<6,1,3> translate Frame*0.4][0.6 granite 0.1 scale 3 translate Frame*0.3] } }
  finish{ diffuse 0.6 emission 4 reflection{0.0,1.0 fresnel on} conserve_energy specular 1.3 roughness 0.004 } } interior{ior 1.33} no_radiosity no_shadow }

#end
#if(View)
// jetty
union{ #local Z=4; #while(Z<34) box{<-0.05,-0.62,Z>,<1.55,-0.57,Z+0.17> OutWood(rr(.7,1.2)) translate y*rr(-.008,.008)} #local Z=Z+0.185; #end
 #local Z=5; #while(Z<35) #for(s,0,1) cylinder{<-0.02+1.54*s,LakeY-1,Z>,<-0.02+1.54*s,-0.05+rr(-.1,.12),Z>,.085 OutWood(rr(.6,1))} #end #local Z=Z+3.6; #end
 box{<0,-.75,4>,<.1,-.62,34> OutWood(.6)} box{<1.4,-.75,4>,<1.5,-.62,34> OutWood(.6)} no_radiosity }

#end // View
// people on the jetty (move)
#if(Part=1) object{Person(<.20,.055,.045>,<.045,.05,.075>,<.06,.035,.02>,Frame*1.05,<.30,.25,.14>) rotate y*65 translate<0.34,-.57,17.5>} #end
#if(Part=2) object{Person(<.20,.19,.12>,<.085,.075,.06>,<.22,.20,.18>,Frame*1.05+1,<.07,.10,.13>) rotate y*250 translate<1.02,-.57,20.5>} #end
#if(View)
// rowing boat
union{ difference{ sphere{0,1 scale<.75,.62,2.2>} sphere{0,1 scale<.70,.57,2.12>} box{<-3,0.0,-3>,<3,2,3>} pigment{rgb<.09,.16,.20>} OutFin(.9,4.2) }
 torus{1,.035 scale<.745,1,2.18> pigment{rgb<.5,.4,.25>} OutFin(.9,4.2)} box{<-.68,-.12,-.15>,<.68,-.08,.15> OutWood(1)} box{<-.6,-.12,.95>,<.6,-.08,1.25> OutWood(1)}
 rotate y*64 translate <-2.7,LakeY+.38,23> no_radiosity }
#end // View
// sailing boat (moves)
#if(Part=3)
union{ object{Sail(<.12,1.15,0>,<.12,9.1,0>,<3.7,1.3,.5>,.55)} object{Sail(<-2.5,.9,.1>,<-.1,7.3,0>,<-.25,1.2,.35>,.35)}
 cylinder{<0,0,0>,<0,9.6,0>,.06 pigment{rgb<.3,.2,.1>} OutFin(.9,3)} cylinder{<0,1.15,0>,<3.75,1.28,.5>,.05 pigment{rgb<.3,.2,.1>} OutFin(.9,3)}
 intersection{ sphere{0,1 scale<3.7,1.0,.95> translate<.4,.25,0>} plane{y,.42} plane{-y,.25} texture{pigment{gradient y color_map{[0 rgb<.08,.10,.12>][.55 rgb<.08,.10,.12>][.56 rgb<.55,.52,.45>][1 rgb<.55,.52,.45>]} scale .75 translate -.3} OutFin(.9,3.2)} }
 sphere_sweep{linear_spline 2 <1.5,.5,0>,.22 <1.45,1.0,0>,.13 pigment{rgb<.2,.06,.04>} OutFin(.9,3)} sphere{<1.45,1.22,0>,.12 pigment{rgb<.3,.2,.14>} OutFin(.9,3)}
 rotate x*(3+2*sin(Frame*1.3)) no_radiosity translate <30,LakeY+.2,150>}
#end
#if(View)
// reeds at the left shore
#local n=0; #while(n<420) #local px=-1.6-pow(rr(0,1),.7)*4.5; #local pz=rr(7.5,13); #local h=rr(1.0,2.1); #local b=rr(-.3,.3)+0.06*sin(n*.1);
 sphere_sweep{linear_spline 4 <0,0,0>,.011 <b*.15,h*.4,0>,.009 <b*.5,h*.75,.05>,.006 <b*1.1,h,.12>,.001 translate<px,LakeY,pz> pigment{rgb<.16,.19,.05>*rr(.5,1.2)} finish{diffuse .5,.4 emission 3.2} no_radiosity} #local n=n+1; #end

#end // View
// overhanging creeper, leaves (move)
#if(Part=4)
#declare LeafM=mesh{ triangle{<0,0,0>,<.018,.028,.004>,<0,.066,0>} triangle{<0,0,0>,<-.018,.028,.004>,<0,.066,0>} };
#declare R=seed(991);
union{ #local n=0; #while(n<44) #local bx=0.5+2.6*pow(rr(0,1),.8); #local by=3.35+rr(-.3,.6); #local bz=rr(4.7,6.4); #local lnn=(bx<1.3?rr(.35,.75):rr(.4,1.3)); #local sw=(0.05+0.03*Frame)*sin(n*1.7+Frame*2.0);
  #local m=0; #while(m<34) #local tt=m/33; #local P=<bx+sw*tt*tt+0.06*sin(tt*5+n),by-lnn*tt,bz+sw*.6*tt*tt>; #local g=rr(.6,1.35);
   object{LeafM scale rr(.8,1.5) rotate<rr(90,250),rr(0,360),rr(-60,60)+sw*200> translate P+<rr(-.06,.06),rr(-.03,.03),rr(-.06,.06)> pigment{rgb<.13*g,.25*g,.035>} finish{diffuse .42,.5 emission 2.2 specular .25 roughness .03}} 
   #local m=m+1; #end
  sphere_sweep{linear_spline 3 <bx,by,bz>,.006 <bx+sw*.25+.06*sin(2.5+n),by-lnn*.5,bz>,.004 <bx+sw+.06*sin(5+n),by-lnn,bz+sw*.6>,.002 pigment{rgb<.09,.06,.035>} OutFin(.9,3)} #local n=n+1; #end no_radiosity }
#end
